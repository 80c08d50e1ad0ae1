import type { NoteResult } from '../schema/measures';
import { median } from '../stats/summary';
import type { ExpectedNote } from '../time/repetition-plan';
import type { SweptNote } from './break-tempo';

/** A note is held against so many neighbours on either side, of which so many must have been played. */
const [REACH, MIN_NEIGHBOURS] = [2, 3];

/**
 * The notes of a repetition whose tempo moved, with the tempo at each and how far off its neighbours it lay. What lags behind a moving
 * tempo as a whole is no unevenness and falls out.
 */
export const sweptNotes = (
  notes: readonly Pick<NoteResult, 'index' | 'deviationMs'>[],
  expected: readonly Pick<ExpectedNote, 'index' | 'timeS' | 'beat'>[],
): SweptNote[] => {
  const known = new Map(notes.map(({ index, deviationMs }) => [index, deviationMs]));
  const deviations = expected.map(({ index }) => known.get(index) ?? null);
  return expected.slice(1).map(({ timeS, beat }, k) => {
    const last = expected[k] as (typeof expected)[number];
    const place = k + 1;
    const own = deviations[place] ?? null;
    const around = deviations
      .slice(Math.max(0, place - REACH), place + REACH + 1)
      .filter((_, n) => n !== Math.min(place, REACH));
    const neighbours = around.filter((one) => one !== null);
    return {
      bpm: (60 * (beat - last.beat)) / (timeS - last.timeS),
      intervalMs: 1000 * (timeS - last.timeS),
      isMissing: own === null,
      errorMs: own === null || neighbours.length < MIN_NEIGHBOURS ? null : own - median(neighbours),
    };
  });
};
