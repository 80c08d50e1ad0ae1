import { alignAtOffset, halfIntervalS, mostWorth, ROUNDING, SETTLED_OFFSET_S, UNPAIRED_COST } from '../align/align';
import type { PlayedAs } from '../schema/measures';
import type { ExpectedNote } from '../time/repetition-plan';

/** Another way in which the notes may have been played: where they would lie. `of` tells which note each one is. */
export interface Hypothesis {
  playedAs: PlayedAs;
  notes: ExpectedNote[];
  of: number[];
  /** So many of its last notes are what it claims: some of them must have sounded. */
  claimed?: number;
}

/** So many of the places where a stumble may have been are looked at closely. */
const LIKELY = 6;
/** Steps that differ by no more are as long. */
const SAME_STEP_S = 1e-9;

/** The last moment that was listened to, as the notes were asked for. */
const untilS = (notes: readonly ExpectedNote[]): number => (notes.at(-1) as ExpectedNote).timeS + SETTLED_OFFSET_S;

/** A note played again, or waited for, and the rest a step late. */
const stumbleAt = (notes: readonly ExpectedNote[], index: number): Hypothesis => {
  const { intervalS } = notes[index] as ExpectedNote;
  const late = notes.slice(index).map((one) => ({ ...one, timeS: one.timeS + intervalS }));
  const heard = [...notes.slice(0, index + 1), ...late].filter(({ timeS }) => timeS <= untilS(notes));
  return {
    playedAs: { kind: 'stumble', note: index },
    notes: heard,
    of: heard.map((_, k) => (k <= index ? k : k - 1)),
    claimed: heard.length - index - 1,
  };
};

/** Sums of all values from each on; one more than the values, the last 0. */
const sumsFrom = (values: readonly number[]): number[] => {
  const sums = new Array<number>(values.length + 1).fill(0);
  for (let k = values.length - 1; k >= 0; k -= 1) sums[k] = (sums[k + 1] as number) + (values[k] as number);
  return sums;
};

/** What a stumble at each note costs at least, as if each note had the onset nearest to it for itself: by two passes over the notes for each length of a step. */
const leastCosts = (notes: readonly ExpectedNote[], onsetsS: readonly number[], offsetS: number): number[] => {
  const halvesS = notes.map((_, k) => halfIntervalS(notes, k));
  const endS = untilS(notes);
  const worths = (laterS: number) =>
    notes.map(({ timeS }, k) =>
      timeS + laterS > endS ? 0 : mostWorth(onsetsS, timeS + laterS + offsetS, halvesS[k] as number),
    );
  const asAsked = sumsFrom(worths(0));
  const whenLate = new Map<number, number[]>();
  return notes.map(({ timeS, intervalS }, index) => {
    const step = Math.round(intervalS / SAME_STEP_S);
    const late = whenLate.get(step) ?? sumsFrom(worths(intervalS));
    whenLate.set(step, late);
    // Where the note comes again, the step before it is its own.
    const again = timeS + intervalS > endS ? 0 : mostWorth(onsetsS, timeS + intervalS + offsetS, intervalS / 2);
    const heard = index + 1 + notes.slice(index).filter((one) => one.timeS + intervalS <= endS).length;
    const worth = (asAsked[0] as number) - (asAsked[index + 1] as number) + again + (late[index + 1] as number);
    return UNPAIRED_COST * (heard + onsetsS.length) - worth;
  });
};

/**
 * The likeliest places of a stumble: a note played again, or waited for, and the rest a step late. A long repetition has hundreds of places;
 * only those are aligned that may be among the best by what they cost at least, and places in an even run, where the notes would lie alike, once.
 *
 * @param heardBy the onsets that can belong to the repetition at each offset that is tried, in seconds, ascending
 */
export const likelyStumbles = (
  notes: readonly ExpectedNote[],
  heardBy: readonly { offset: number; onsetsS: readonly number[] }[],
): { one: Hypothesis; offset: number }[] => {
  const bounds = heardBy.map(({ offset, onsetsS }) => leastCosts(notes, onsetsS, offset));
  const places = notes
    .slice(0, -1)
    .flatMap((_, index) => heardBy.map((by, k) => ({ index, by, bound: bounds[k]?.[index] as number })));
  const found: { index: number; offset: number; cost: number }[] = [];
  const known = new Map<string, number>();
  // The first note of an even run stands for all of it.
  const runs = notes.map(() => 0);
  notes.forEach(({ intervalS }, k) => {
    const before = notes[k - 1];
    runs[k] = before && Math.abs(before.intervalS - intervalS) < SAME_STEP_S ? (runs[k - 1] as number) : k;
  });
  for (const { index, by, bound } of places.sort((a, b) => a.bound - b.bound)) {
    const sixth = found.length < LIKELY ? Number.POSITIVE_INFINITY : (found[LIKELY - 1]?.cost as number);
    if (bound > sixth - ROUNDING) break;
    const run = `${by.offset}/${runs[index]}`;
    const cost = known.get(run) ?? alignAtOffset(stumbleAt(notes, index).notes, by.onsetsS, by.offset).cost;
    known.set(run, cost);
    found.push({ index, offset: by.offset, cost });
    found.sort((a, b) => a.cost - b.cost || a.index - b.index);
  }
  return found.slice(0, LIKELY).map(({ index, offset }) => ({ one: stumbleAt(notes, index), offset }));
};
