import { Box, chakra, Flex, Link, Text } from '@chakra-ui/react';
import { useEffect } from 'react';
import { NavLink, Outlet, Link as RouterLink } from 'react-router';
import { useHealth } from '../api/queries/upkeep';
import { sendUnsent } from '../recorder/outbox';
import { holdsSomething } from '../recorder/unsent';
import { Notice } from './Notice';
import { loadAllPages } from './pages';
import { Toaster } from './toaster';
import { Unsent } from './Unsent';
import { useAppearance } from './use-appearance';

const PLACES = [
  { to: '/', name: 'Today' },
  { to: '/bench', name: 'Bench' },
  { to: '/material', name: 'Material' },
  { to: '/ledger', name: 'Ledger' },
  { to: '/setup', name: 'Setup' },
] as const;

const PlaceLink = chakra(NavLink, {
  base: {
    position: 'relative',
    paddingTop: { base: '4px', md: '10px' },
    paddingBottom: '6px',
    fontFamily: 'heading',
    fontSize: { base: '17px', md: '19px' },
    color: 'quiet',
    // The place one is at carries a short upright, like a note on the strip.
    '&[aria-current=page]': { color: 'ink' },
    '&[aria-current=page]::before': {
      content: '""',
      position: 'absolute',
      top: 0,
      left: '50%',
      width: '3px',
      height: '10px',
      background: 'now',
    },
  },
});

/** So many sentences about what cannot be read stand above every place. */
const SHOWN = 2;

/** What is opened first comes first. */
const LOAD_OTHERS_AFTER_MS = 5000;

/** What surrounds every place: the name, the five places, and what still waits to be stored. */
export const AppFrame = () => {
  useAppearance();
  const unreadable = useHealth().data?.unreadable ?? [];
  useEffect(() => {
    void sendUnsent();
    const warn = (event: BeforeUnloadEvent) => {
      if (holdsSomething()) event.preventDefault();
    };
    window.addEventListener('beforeunload', warn);
    // One that cannot be loaded now is loaded, or missed in words, when it is opened.
    const loading = window.setTimeout(() => loadAllPages().catch(() => {}), LOAD_OTHERS_AFTER_MS);
    return () => {
      window.clearTimeout(loading);
      window.removeEventListener('beforeunload', warn);
    };
  }, []);

  return (
    <Box maxWidth="1360px" marginX="auto" paddingX={{ base: '16px', md: '36px' }} paddingBottom={{ base: '40px', _print: 0 }}>
      <Link
        href="#main"
        position="absolute"
        left="-999px"
        _focus={{ left: '12px', top: '12px', background: 'page', padding: '8px', zIndex: 10 }}
      >
        To the content
      </Link>
      <Flex
        as="header"
        align="baseline"
        gap={{ base: '0 20px', md: '36px' }}
        borderBottom="1px solid"
        borderColor="rule"
        flexWrap="wrap"
      >
        <Text fontFamily="heading" fontSize="24px" fontWeight="600" letterSpacing="0.01em">
          Isochron
        </Text>
        <Flex as="nav" aria-label="Places" gap={{ base: '0 14px', md: '28px' }} flexWrap="wrap">
          {PLACES.map(({ to, name }) => (
            <PlaceLink key={to} to={to} end={to === '/'}>
              {name}
            </PlaceLink>
          ))}
        </Flex>
      </Flex>
      <Unsent />
      {unreadable.slice(0, SHOWN).map((sentence) => (
        <Notice key={sentence}>{sentence}</Notice>
      ))}
      {unreadable.length > 0 && (
        <Text role="status" fontSize="16px">
          {unreadable.length > SHOWN && `${unreadable.length - SHOWN} more cannot be read. `}
          <Link asChild color="ink" textDecoration="underline">
            <RouterLink to="/setup/data">What to do</RouterLink>
          </Link>
        </Text>
      )}
      <Box as="main" id="main" paddingTop="22px">
        <Outlet />
      </Box>
      <Toaster />
    </Box>
  );
};
