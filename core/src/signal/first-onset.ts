import type { Onset } from '../schema/measures';

/** A recording's beginning, in seconds: an onset there may be its noise that begins. */
export const BEGINNING_S = 0.2;
/** By then it is known how the sound goes on. */
export const GOES_ON_S = 0.4;
/** A noise goes on as it began, to within this. */
const STEADY_DB = 3;
/** What goes on as it began is a note only where it is about as loud as the next one … */
const BESIDE_NEXT_DB = 12;
/** … and anything, where it is not much softer. */
const UNDER_NEXT_DB = 25;

/**
 * Whether the first onset of a recording is a note, not the beginning of its noise: a recording may begin on its first note. Told by
 * how the sound goes on (`laterDb`) and by the next note, null where none came.
 */
export const isFirstNote = (first: Pick<Onset, 'levelDb'>, laterDb: number, next: Pick<Onset, 'levelDb'> | null): boolean => {
  const isSteady = Math.abs(first.levelDb - laterDb) < STEADY_DB;
  if (!next) return !isSteady;
  return first.levelDb > next.levelDb - (isSteady ? BESIDE_NEXT_DB : UNDER_NEXT_DB);
};
