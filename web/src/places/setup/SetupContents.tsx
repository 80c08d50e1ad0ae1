import { Box, Field, Input, Text } from '@chakra-ui/react';
import { useState } from 'react';
import { Link, useNavigate } from 'react-router';
import { labelStyle } from '../../app/label-style';
import { foundParts } from './setup-parts';

const TO_LOOK_FOR = 'setup-search';

/** The contents of Setup, which stay beside every part of it, and what is looked for in them. */
export const SetupContents = ({ shownId }: { shownId: string }) => {
  const [text, setText] = useState('');
  const navigate = useNavigate();
  const found = foundParts(text);
  const [first] = found;
  return (
    <Box
      as="nav"
      aria-label="Parts of Setup"
      position={{ md: 'sticky' }}
      top="16px"
      width={{ md: '250px' }}
      flexShrink="0"
      marginTop="16px"
    >
      <form
        onSubmit={(event) => {
          event.preventDefault();
          if (first) void navigate(`/setup/${first.part.id}`);
        }}
      >
        <Field.Root>
          <Field.Label htmlFor={TO_LOOK_FOR} {...labelStyle}>
            Find a setting
          </Field.Label>
          <Input
            id={TO_LOOK_FOR}
            type="search"
            value={text}
            borderColor="quiet"
            borderRadius="control"
            onChange={(event) => setText(event.target.value)}
          />
        </Field.Root>
      </form>
      {found.length === 0 && (
        <Text role="status" marginTop="8px">
          Nothing in Setup has that name.
        </Text>
      )}
      <Box
        as="ul"
        listStyleType="none"
        padding="0"
        marginTop="10px"
        display={{ base: 'flex', md: 'block' }}
        flexWrap="wrap"
        gap="0 16px"
      >
        {found.map(({ part, fits }) => (
          <Box as="li" key={part.id} css={{ '& a[aria-current]': { color: 'ink', fontWeight: 600, borderColor: 'now' } }}>
            <Link
              to={`/setup/${part.id}`}
              aria-current={part.id === shownId ? 'true' : undefined}
              style={{ display: 'block', padding: '5px 0 5px 10px', borderLeft: '3px solid', borderColor: 'transparent' }}
            >
              {part.title}
              {fits.map((name) => (
                <Text as="span" key={name} display="block" fontSize="15px" color="quiet">
                  {name}
                </Text>
              ))}
            </Link>
          </Box>
        ))}
      </Box>
    </Box>
  );
};
