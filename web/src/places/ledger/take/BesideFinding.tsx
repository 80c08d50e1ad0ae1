import { Text } from '@chakra-ui/react';
import { attackHabitReason, awkwardReason, doubleAttackReason } from '@isochron/core/analysis';
import type { Grid, Take } from '@isochron/core/schema';
import { useDescribe } from '../../../app/use-describe';
import { SpotDrills } from './SpotDrills';
import type { Across } from './use-across';

const LISTED_HABITS = 3;

/** What the finding of a take rests on, what else was found, and drills for the one spot. */
export const BesideFinding = ({ take, grid, found }: { take: Take; grid: Grid; found: Across }) => {
  const say = useDescribe();
  const { across, pooled, awkward, habits, expected, doubledBpm, spot, isStraight } = found;
  return (
    <>
      {awkward && (
        <Text fontSize="18px" maxWidth="70ch" data-testid="awkward">
          {say(awkwardReason(awkward))}
        </Text>
      )}
      {pooled.count > across.count && (
        <Text color="quiet" fontSize="16px">
          From {pooled.count} repetitions, those of the takes before this one among them.
        </Text>
      )}
      {expected && (
        <Text color="quiet" fontSize="16px">
          It was to be expected there: {say(expected.why)}
        </Text>
      )}
      {habits.slice(0, LISTED_HABITS).map((habit) => (
        <Text key={`${habit.kind}/${habit.index}`} fontSize="18px" maxWidth="70ch" data-testid="attack-habit">
          {say(attackHabitReason(habit))}
        </Text>
      ))}
      {doubledBpm != null && <Text fontSize="18px">{say(doubleAttackReason(doubledBpm))}</Text>}
      {spot !== null && isStraight && <SpotDrills take={take} grid={grid} index={spot} />}
    </>
  );
};
