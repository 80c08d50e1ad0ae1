import { chakra, Flex, Text } from '@chakra-ui/react';
import { memo } from 'react';

const Key = chakra('kbd', {
  base: {
    fontFamily: 'body',
    fontSize: '15px',
    border: '1px solid',
    borderColor: 'quiet',
    borderRadius: 'control',
    paddingX: '7px',
    marginRight: '6px',
    background: 'transparent',
    color: 'ink',
  },
});

const Touch = chakra('button', {
  base: { minHeight: '40px', paddingX: '4px', color: 'quiet', cursor: 'pointer', _hover: { color: 'ink' } },
});

/** A key and what it does; with `act` it can be touched as well. */
export interface KeyHint {
  keyName: string;
  does: string;
  act?: () => void;
}

/** What the keys do here. On a phone or a tablet the same words are touched. */
export const KeyHints = memo(({ hints }: { hints: readonly KeyHint[] }) => (
  <Flex as="ul" gap="2px 18px" flexWrap="wrap" align="center" listStyleType="none" padding="0" fontSize="16px" color="quiet">
    {hints.map(({ keyName, does, act }) => {
      const words = (
        <>
          <Key>{keyName}</Key> <Text as="span">{does}</Text>
        </>
      );
      return (
        <li key={keyName}>
          {act ? (
            <Touch type="button" onClick={act}>
              {words}
            </Touch>
          ) : (
            words
          )}
        </li>
      );
    })}
  </Flex>
));
