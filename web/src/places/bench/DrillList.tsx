import { Box, chakra, Flex, Input, Text } from '@chakra-ui/react';
import type { Drill } from '@isochron/core/schema';
import { drillName } from '@isochron/core/words';
import { useState } from 'react';
import { useSettings } from '../../api/settings';
import { foundDrills } from './found-drills';

const DrillButton = chakra('button', {
  base: {
    border: '1px solid',
    borderColor: 'rule',
    borderRadius: 'control',
    paddingX: '10px',
    paddingY: '3px',
    fontSize: '15px',
    color: 'quiet',
    cursor: 'pointer',
    '&[aria-pressed=true]': { borderColor: 'now', color: 'ink', background: 'band' },
  },
});

/** So many drills are named; of more, the others are found by their number or name. */
const NAMED = 40;
const WITHOUT_SEARCH = 6;

interface Props {
  drills: readonly Drill[];
  shown: number;
  onShow(index: number): void;
}

/**
 * What a method makes of the passage: its drills in the order in which they are played; choosing one shows its notation, and it is the
 * first to be played.
 */
export const DrillList = ({ drills, shown, onShow }: Props) => {
  const { settings } = useSettings();
  const [text, setText] = useState('');
  const [first] = drills;
  if (!first || (drills.length === 1 && first.method.id === 'straight' && !first.also)) return null;
  const found = foundDrills(
    drills.map((drill) => drillName(drill, settings)),
    text,
  );
  const listed = found.slice(0, NAMED);
  return (
    <Box marginBottom="6px">
      <Flex gap="4px 20px" align="center" flexWrap="wrap" marginBottom="4px">
        <Text fontSize="16px" fontWeight="600" id="drills-label">
          {drills.length === 1
            ? 'What is played'
            : `${drills.length} drills, one after the other${shown > 0 ? `, beginning with number ${shown + 1}` : ''}`}
        </Text>
        {drills.length > WITHOUT_SEARCH && (
          <Input
            type="search"
            aria-label="Find a drill by its number or name"
            placeholder="number or name"
            width="180px"
            size="sm"
            borderColor="quiet"
            borderRadius="control"
            value={text}
            onChange={(event) => setText(event.target.value)}
            onKeyDown={(event) => {
              const [one] = listed;
              if (event.key !== 'Enter') return;
              // It begins no take.
              event.preventDefault();
              if (one) onShow(one.index);
            }}
          />
        )}
      </Flex>
      <Box display="flex" flexWrap="wrap" gap="6px" role="group" aria-labelledby="drills-label">
        {listed.map(({ index, name }) => (
          <DrillButton key={index} type="button" aria-pressed={index === shown} onClick={() => onShow(index)}>
            {name}
          </DrillButton>
        ))}
        {found.length > NAMED && (
          <Text fontSize="15px" color="quiet">
            and {found.length - NAMED} more
          </Text>
        )}
        {found.length === 0 && (
          <Text fontSize="15px" role="status">
            No drill has that name.
          </Text>
        )}
      </Box>
    </Box>
  );
};
