import { median } from '../stats/summary';

/** What was heard of a note's pitch. */
export interface PitchResult {
  /** Deviation from the expected semitone in cents, or null where no clear pitch was heard. */
  cents: number | null;
  /** True where another note than the expected one was heard clearly. */
  wrong: boolean;
}

const UNCLEAR: PitchResult = { cents: null, wrong: false };

/** More than this from the expected pitch is another note. */
const WRONG_CENTS = 70;
/** A pitch farther than this (semitones) from all that is asked for is two sounds at once, not a note. */
const FAR_SEMITONES = 7;
/** Share of the clear notes that must agree on a transposition. */
const AGREED = 0.6;

/**
 * Compares heard pitches (fractional MIDI numbers, null where unclear) with the expected ones. An instrument may sound in
 * another octave or key than its part is written in: a transposition by whole semitones that most notes agree on is taken
 * off. A note that sounds an octave away is not called wrong: its overtones may have been heard. Nor is one at the pitch of the
 * note before, which may still ring, or one far from everything that is asked for: two notes that ring together sound so. Where the
 * instrument sent its notes (`isSent`) nothing is doubtful: an octave away is wrong as well.
 */
export const checkPitches = (
  heard: readonly (number | null)[],
  expected: readonly (readonly number[])[],
  isSent = false,
): { results: PitchResult[]; transposition: number } => {
  const steps = heard.map((pitch, k) => {
    const wanted = expected[k] ?? [];
    if (pitch === null || wanted.length === 0) return null;
    return wanted.reduce(
      (best, one) => (Math.abs(pitch - one) < Math.abs(best) ? pitch - one : best),
      Number.POSITIVE_INFINITY,
    );
  });
  const clear = steps.filter((step) => step !== null);
  const common = clear.length ? Math.round(median(clear)) : 0;
  const agreeing = clear.filter((step) => Math.abs(step - common) < 0.5).length;
  const transposition = agreeing >= AGREED * clear.length ? common : 0;
  const asked = expected.flat().map((pitch) => pitch + transposition);
  const results = steps.map((step, k): PitchResult => {
    const pitch = heard[k];
    if (step === null || pitch === null || pitch === undefined) return UNCLEAR;
    const rest = step - transposition;
    if (isSent) return { cents: 0, wrong: Math.abs(rest) >= 0.5 };
    const cents = 100 * (rest - 12 * Math.round(rest / 12));
    if (Math.abs(cents) <= WRONG_CENTS) return { cents, wrong: false };
    const before = (expected[k - 1] ?? []).map((one) => one + transposition);
    const rings = before.some((one) => 100 * Math.abs(pitch - one) <= WRONG_CENTS);
    const far = asked.every((one) => Math.abs(pitch - one) > FAR_SEMITONES);
    return rings || far ? UNCLEAR : { cents, wrong: true };
  });
  return { results, transposition };
};
