import { Box, chakra, Text } from '@chakra-ui/react';
import type { Drill } from '@isochron/core/schema';
import { drillName } from '@isochron/core/words';
import { useSettings } from '../../api/settings';

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

/** So many drills are named; of more, the others come by themselves. */
const NAMED = 40;

interface Props {
  drills: readonly Drill[];
  shown: number;
  onShow(index: number): void;
}

/** What a method makes of the passage: its drills in the order in which they are played; choosing one shows its notation. */
export const DrillList = ({ drills, shown, onShow }: Props) => {
  const { settings } = useSettings();
  const [first] = drills;
  if (!first || (drills.length === 1 && first.method.id === 'straight' && !first.also)) return null;
  return (
    <Box marginBottom="6px">
      <Text fontSize="16px" fontWeight="600" id="drills-label">
        {drills.length === 1 ? 'What is played' : `${drills.length} drills, one after the other`}
      </Text>
      <Box display="flex" flexWrap="wrap" gap="6px" role="group" aria-labelledby="drills-label">
        {drills.slice(0, NAMED).map((drill, k) => (
          // biome-ignore lint/suspicious/noArrayIndexKey: a drill is known by its place.
          <DrillButton key={k} type="button" aria-pressed={k === shown} onClick={() => onShow(k)}>
            {drillName(drill, settings)}
          </DrillButton>
        ))}
        {drills.length > NAMED && (
          <Text fontSize="15px" color="quiet">
            and {drills.length - NAMED} more
          </Text>
        )}
      </Box>
    </Box>
  );
};
