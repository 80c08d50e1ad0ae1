import { Box, Flex, Heading } from '@chakra-ui/react';
import type { ScorePart } from '@isochron/core/score';
import { useState } from 'react';
import { Action } from '../../app/Action';
import { ChoiceField } from '../../app/fields';
import { usePageKeys } from '../../app/use-page-keys';

interface Props {
  fileName: string;
  parts: readonly ScorePart[];
  onTake(partId: string): void;
  onLeave(): void;
}

/** Asks which part of a file is the player's own. */
export const ChoosePart = ({ fileName, parts, onTake, onLeave }: Props) => {
  const [chosen, setChosen] = useState(parts[0]?.id ?? '');
  usePageKeys({ Enter: () => onTake(chosen), Escape: onLeave });
  return (
    <Box
      as="section"
      aria-labelledby="which-part"
      border="1px solid"
      borderColor="quiet"
      borderRadius="control"
      padding="14px 18px"
      marginBottom="18px"
    >
      <Heading as="h2" id="which-part" fontSize="22px" fontWeight="500" marginBottom="8px">
        There is more than one part in “{fileName}”.
      </Heading>
      <Flex gap="10px 18px" flexWrap="wrap" align="flex-end">
        <ChoiceField
          label="Which one do you play?"
          width="min(420px, 100%)"
          value={chosen}
          choices={parts.map(({ id, name, notes }) => ({
            value: id,
            name: `${name} · ${notes} ${notes === 1 ? 'note' : 'notes'}`,
          }))}
          onChange={setChosen}
        />
        <Action onClick={() => onTake(chosen)}>Take it (Enter)</Action>
        <Action quiet onClick={onLeave}>
          Leave it (Esc)
        </Action>
      </Flex>
    </Box>
  );
};
