import { SETTLED_OFFSET_S } from '../align/align';
import { offsetToTry, pairNotes } from '../measure/analyse-repetition';
import { countPlayed } from '../measure/broken-off';
import type { Onset } from '../schema/measures';
import { shortestIntervalMs } from '../time/repetition-plan';
import type { Expectation } from './expectation';

/** So many notes tell a delay; of fewer it is not said (our choice: two beats of semiquavers, a bar of crotchets and more). */
const LEAST_NOTES = 5;

/**
 * How late everything comes, in seconds: as it is known, or else as the notes so far tell, where each of those that were due was heard and no
 * other delay would do. Null where that is not so.
 *
 * @param onsets ascending in time
 */
export const offsetSoFar = (expectation: Expectation, onsets: readonly Onset[]): number | null => {
  const { nearS, reachS } = offsetToTry(expectation);
  if (reachS <= SETTLED_OFFSET_S) return nearS;
  const { notes } = expectation.plan;
  // As many notes as were heard: who has stopped has left out what follows.
  const heard = countPlayed(
    notes,
    onsets.map(({ timeS }) => timeS),
    nearS,
  );
  if (heard === null || heard < LEAST_NOTES) return null;
  const paired = pairNotes(onsets, expectation, [0, heard], offsetToTry(expectation));
  const isWhole = paired.extra === 0 && paired.notes.every(({ onsetS }) => onsetS !== null);
  // Later than half a step they may as well be early notes of the next.
  const isFar = 1000 * Math.abs(paired.offsetS - nearS) > shortestIntervalMs(notes) / 2;
  return isWhole && !isFar && !paired.ambiguous ? paired.offsetS : null;
};
