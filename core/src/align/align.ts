import type { ExpectedNote } from '../time/repetition-plan';

/** Cost of leaving an expected note without an onset, or an onset without a note. A pair costs its distance. */
const UNPAIRED_COST = 0.4;

/** The result of pairing onsets with expected notes. */
export interface Alignment {
  /** For each expected note the index of its onset, or null: missed. */
  onsetOf: (number | null)[];
  /** Indices of the onsets that belong to no note. */
  extra: number[];
  /** The constant offset that was allowed for, in seconds. */
  offsetS: number;
  /** True where another constant offset fits about as well. */
  ambiguous: boolean;
  cost: number;
}

/** What a pair costs: its distance in half intervals, so that a pair farther apart than 0.4 intervals is never made. */
const pairCost = (deviationS: number, note: ExpectedNote, scaleS: number): number =>
  Math.abs(deviationS) / (0.5 * Math.min(note.intervalS, scaleS));

const scaleOf = (notes: readonly ExpectedNote[], index: number): number =>
  Math.min((notes[index] as ExpectedNote).intervalS, notes[index - 1]?.intervalS ?? Number.POSITIVE_INFINITY);

/**
 * Pairs onsets with expected notes at one constant offset: the monotonic pairing of least total cost, by dynamic
 * programming over (note, onset). Both lists ascend in time; times in seconds.
 */
export const alignAtOffset = (notes: readonly ExpectedNote[], onsetsS: readonly number[], offsetS: number): Alignment => {
  const columns = onsetsS.length + 1;
  const cost = new Float64Array((notes.length + 1) * columns);
  for (let i = 0; i <= notes.length; i += 1) {
    for (let j = 0; j < columns; j += 1) {
      if (i === 0 && j === 0) continue;
      const note = notes[i - 1];
      const onset = onsetsS[j - 1];
      let best = Number.POSITIVE_INFINITY;
      if (note) best = (cost[(i - 1) * columns + j] as number) + UNPAIRED_COST;
      if (onset !== undefined) best = Math.min(best, (cost[i * columns + j - 1] as number) + UNPAIRED_COST);
      if (note && onset !== undefined) {
        const pair = pairCost(onset - offsetS - note.timeS, note, scaleOf(notes, i - 1));
        best = Math.min(best, (cost[(i - 1) * columns + j - 1] as number) + pair);
      }
      cost[i * columns + j] = best;
    }
  }

  const onsetOf: (number | null)[] = notes.map(() => null);
  const extra: number[] = [];
  let i = notes.length;
  let j = onsetsS.length;
  const at = (row: number, column: number) => cost[row * columns + column] as number;
  while (i > 0 || j > 0) {
    const note = notes[i - 1];
    const onset = onsetsS[j - 1];
    if (note && onset !== undefined) {
      const pair = pairCost(onset - offsetS - note.timeS, note, scaleOf(notes, i - 1));
      if (at(i, j) === at(i - 1, j - 1) + pair) {
        onsetOf[i - 1] = j - 1;
        i -= 1;
        j -= 1;
        continue;
      }
    }
    if (note && at(i, j) === at(i - 1, j) + UNPAIRED_COST) {
      i -= 1;
    } else {
      extra.unshift(j - 1);
      j -= 1;
    }
  }
  return { onsetOf, extra, offsetS, ambiguous: false, cost: at(notes.length, onsetsS.length) };
};

/** Where the constant offset of a repetition is looked for, in seconds. */
export interface OffsetGuess {
  nearS: number;
  reachS: number;
}

/** An unknown latency may push the notes this far, in seconds (wireless headphones). */
export const MAX_OFFSET_S = 0.3;

/** Once a latency was seen, the player's own lead or lag moves the notes no farther than this from it, in seconds. */
export const SETTLED_OFFSET_S = 0.06;

/** Nothing is known of the latency. */
export const UNKNOWN_OFFSET: OffsetGuess = { nearS: 0, reachS: MAX_OFFSET_S };

/** Constant offsets worth trying: every onset–note distance in range, thinned to one each 4 ms. */
const candidateOffsets = (
  notes: readonly ExpectedNote[],
  onsetsS: readonly number[],
  { nearS, reachS }: OffsetGuess,
): number[] => {
  const seen = new Map<number, { sum: number; count: number }>();
  for (const note of notes) {
    for (const onset of onsetsS) {
      const offset = onset - note.timeS;
      if (Math.abs(offset - nearS) > reachS) continue;
      const cell = Math.round(offset / 0.004);
      const entry = seen.get(cell) ?? { sum: 0, count: 0 };
      seen.set(cell, { sum: entry.sum + offset, count: entry.count + 1 });
    }
  }
  const cells = [...seen.values()].sort((a, b) => b.count - a.count).slice(0, 40);
  return [nearS, ...cells.map((cell) => cell.sum / cell.count)];
};

/**
 * Pairs onsets with expected notes. Monotonic, by least total cost of distances, missed notes and extra onsets, over a
 * constant offset within the guess's reach. Where several offsets fit about equally well (even notes shifted by a
 * whole interval) the one nearest `nearS`, the last known latency, is taken and `ambiguous` is set.
 */
export const align = (
  notes: readonly ExpectedNote[],
  onsetsS: readonly number[],
  guess: OffsetGuess = UNKNOWN_OFFSET,
): Alignment => {
  const { nearS } = guess;
  if (onsetsS.length === 0) return alignAtOffset(notes, onsetsS, nearS);
  const tried = candidateOffsets(notes, onsetsS, guess).map((offset) => alignAtOffset(notes, onsetsS, offset));
  const least = Math.min(...tried.map((alignment) => alignment.cost));
  // Equally good: within the cost of one unpaired note.
  const good = tried.filter((alignment) => alignment.cost <= least + UNPAIRED_COST / 2);
  const nearest = good.reduce((best, one) => (Math.abs(one.offsetS - nearS) < Math.abs(best.offsetS - nearS) ? one : best));
  const shortestS = Math.min(...notes.map((note) => note.intervalS));
  const sameShift = good.filter((one) => Math.abs(one.offsetS - nearest.offsetS) < shortestS / 2);
  const best = sameShift.reduce((a, b) => (b.cost < a.cost ? b : a));
  return { ...best, ambiguous: sameShift.length < good.length };
};
