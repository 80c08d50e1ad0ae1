import type { Tolerance } from '../schema/tolerance';
import type { Profile } from '../signal/profiles';

/**
 * The tolerance of a take by what it is played with: whether a wrong note counts is a choice of its own for an instrument that sends its
 * notes, where a wrong note is sure, and for sound, where it is heard.
 */
export const toleranceFor = (tolerance: Tolerance, { sendsPitch }: Pick<Profile, 'sendsPitch'>): Tolerance => ({
  ...tolerance,
  pitchCounts: sendsPitch ? tolerance.pitchCountsMidi : tolerance.pitchCounts,
});
