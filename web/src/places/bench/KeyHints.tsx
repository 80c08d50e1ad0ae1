import { chakra, Flex, Text } from '@chakra-ui/react';

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

/** What the keys do here. */
export const KeyHints = ({ hints }: { hints: readonly (readonly [string, string])[] }) => (
  <Flex as="ul" gap="22px" flexWrap="wrap" listStyleType="none" padding="0" fontSize="16px" color="quiet">
    {hints.map(([key, what]) => (
      <li key={key}>
        <Key>{key}</Key>
        <Text as="span">{what}</Text>
      </li>
    ))}
  </Flex>
);
