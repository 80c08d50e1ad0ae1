import { bisectLeft } from 'd3-array';
import { type ExpectedNote, shortestIntervalMs } from '../time/repetition-plan';
import { heaviestPairing, type PossiblePair } from './heaviest-pairing';

/**
 * Cost of leaving an expected note without an onset, or an onset without a note. A pair costs its distance in half intervals, so that
 * a note up to the middle between two gridlines is late, or early, once: not missed and added.
 */
export const UNPAIRED_COST = 0.5;

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

/** A pair costs as many half intervals as it lies apart; one that costs more than its two left alone is never made. */
const PAIR_REACH = 2 * UNPAIRED_COST;

/** Half of the shorter interval beside a note, in seconds. */
export const halfIntervalS = (notes: readonly ExpectedNote[], index: number): number =>
  0.5 * Math.min((notes[index] as ExpectedNote).intervalS, notes[index - 1]?.intervalS ?? Number.POSITIVE_INFINITY);

/**
 * Pairs onsets with expected notes at one constant offset: the monotonic pairing of least total cost. Both lists ascend in time;
 * times in seconds.
 */
export const alignAtOffset = (notes: readonly ExpectedNote[], onsetsS: readonly number[], offsetS: number): Alignment => {
  const possible: PossiblePair[] = [];
  notes.forEach((note, row) => {
    const halfS = halfIntervalS(notes, row);
    const dueS = note.timeS + offsetS;
    const reachS = PAIR_REACH * halfS;
    for (let column = bisectLeft(onsetsS, dueS - reachS); column < onsetsS.length; column += 1) {
      const apartS = Math.abs((onsetsS[column] as number) - offsetS - note.timeS);
      if ((onsetsS[column] as number) > dueS && apartS >= reachS) break;
      // Made, it saves the cost of two that are left alone.
      const worth = PAIR_REACH - apartS / halfS;
      if (worth > 0) possible.push({ row, column, worth });
    }
  });
  const onsetOf: (number | null)[] = notes.map(() => null);
  const isExtra = onsetsS.map(() => true);
  let cost = UNPAIRED_COST * (notes.length + onsetsS.length);
  for (const { row, column, worth } of heaviestPairing(possible, onsetsS.length)) {
    onsetOf[row] = column;
    isExtra[column] = false;
    cost -= worth;
  }
  const extra = onsetsS.flatMap((_, column) => (isExtra[column] ? [column] : []));
  return { onsetOf, extra, offsetS, ambiguous: false, cost };
};

/** Where the constant offset of a repetition is looked for, in seconds. */
export interface OffsetGuess {
  nearS: number;
  reachS: number;
  /** So far it is looked for where what is nearer leaves something unexplained; left out, no farther than its reach. */
  farS?: number;
}

/** An unknown latency may push the notes this far, in seconds (wireless headphones). */
export const MAX_OFFSET_S = 0.3;

/** Once a latency was seen, the player's own lead or lag moves the notes no farther than this from it, in seconds. */
export const SETTLED_OFFSET_S = 0.06;

/** Another offset explains a repetition clearly better where it saves more than this: about a missed and an added note. */
export const CLEARLY_BETTER = 1.5 * UNPAIRED_COST;

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
    for (let k = bisectLeft(onsetsS, note.timeS + nearS - reachS); k < onsetsS.length; k += 1) {
      const offset = (onsetsS[k] as number) - note.timeS;
      if (offset - nearS > reachS) break;
      const cell = Math.round(offset / 0.004);
      const entry = seen.get(cell) ?? { sum: 0, count: 0 };
      seen.set(cell, { sum: entry.sum + offset, count: entry.count + 1 });
    }
  }
  const cells = [...seen.values()].sort((a, b) => b.count - a.count).slice(0, 40);
  return [nearS, ...cells.map((cell) => cell.sum / cell.count)];
};

/** Offsets whose costs differ by no more explain a repetition equally well: within half the cost of one unpaired note. */
export const EQUALLY_GOOD = UNPAIRED_COST / 2;
/** What sums in another order may differ by. */
export const ROUNDING = 1e-9;

/** What pairing a note that is due at a time can be worth at most: as much as with the onset nearest to it. */
export const mostWorth = (onsetsS: readonly number[], dueS: number, halfS: number): number => {
  const next = bisectLeft(onsetsS, dueS);
  const apartS = Math.min(
    (onsetsS[next] ?? Number.POSITIVE_INFINITY) - dueS,
    dueS - (onsetsS[next - 1] ?? Number.NEGATIVE_INFINITY),
  );
  return Math.max(0, PAIR_REACH - apartS / halfS);
};

/** What a pairing at an offset costs at least: as much as if every note had the onset nearest to it for itself. */
const leastCostAt = (notes: readonly ExpectedNote[], onsetsS: readonly number[], offsetS: number): number =>
  notes.reduce(
    (cost, note, row) => cost - mostWorth(onsetsS, note.timeS + offsetS, halfIntervalS(notes, row)),
    UNPAIRED_COST * (notes.length + onsetsS.length),
  );

/** The alignments at those of some offsets that may be as good as the best of them, in the order of the offsets. */
export const alignWhereGood = (
  notes: readonly ExpectedNote[],
  onsetsS: readonly number[],
  offsetsS: readonly number[],
): Alignment[] => {
  const bounds = offsetsS.map((offsetS) => leastCostAt(notes, onsetsS, offsetS));
  const order = bounds.map((_, index) => index).sort((a, b) => (bounds[a] as number) - (bounds[b] as number));
  const tried: (Alignment | undefined)[] = offsetsS.map(() => undefined);
  let least = Number.POSITIVE_INFINITY;
  for (const index of order) {
    if ((bounds[index] as number) > least + EQUALLY_GOOD + ROUNDING) break;
    const alignment = alignAtOffset(notes, onsetsS, offsetsS[index] as number);
    least = Math.min(least, alignment.cost);
    tried[index] = alignment;
  }
  return tried.flatMap((alignment) => (alignment && alignment.cost <= least + EQUALLY_GOOD ? [alignment] : []));
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
  const good = alignWhereGood(notes, onsetsS, candidateOffsets(notes, onsetsS, guess));
  const nearest = good.reduce((best, one) => (Math.abs(one.offsetS - nearS) < Math.abs(best.offsetS - nearS) ? one : best));
  const shortestS = shortestIntervalMs(notes) / 1000;
  const sameShift = good.filter((one) => Math.abs(one.offsetS - nearest.offsetS) < shortestS / 2);
  const best = sameShift.reduce((a, b) => (b.cost < a.cost ? b : a));
  return { ...best, ambiguous: sameShift.length < good.length };
};

/**
 * Pairs as {@link align} does, and looks farther where that leaves something unexplained: an entry that came a whole interval or
 * beat early or late, or a latency that has jumped. Where an offset outside the guess explains the repetition clearly better
 * it is taken, and `ambiguous` is set. `onsetsIn` gives the onsets that can belong to it within a guess; those at the offset that
 * was found are given back with the pairing: what a wider look took in from before or after is none of its notes. But no later
 * offset is taken where something sounded before it, at the nearer one: who plays a note, waits and goes on has begun, and is late since.
 */
export const alignLookingFar = <One extends { timeS: number }>(
  notes: readonly ExpectedNote[],
  onsetsIn: (guess: OffsetGuess) => readonly One[],
  guess: OffsetGuess,
): { alignment: Alignment; onsets: readonly One[] } => {
  const { nearS, reachS, farS = reachS } = guess;
  const timesOf = (found: readonly One[]) => found.map(({ timeS }) => timeS);
  const isKnown = reachS <= SETTLED_OFFSET_S;
  const settled = ({ offsetS, ambiguous }: Alignment) => {
    const own = onsetsIn({ nearS: offsetS, reachS: Math.min(reachS, SETTLED_OFFSET_S) });
    const before = isKnown && offsetS > nearS ? onsetsIn(guess).filter(({ timeS }) => timeS < (own[0]?.timeS ?? 0)) : [];
    const onsets = [...before, ...own];
    return { alignment: { ...alignAtOffset(notes, timesOf(onsets), offsetS), ambiguous }, onsets, before };
  };
  const near = settled(align(notes, timesOf(onsetsIn(guess)), guess));
  const isWhole = near.alignment.extra.length === 0 && near.alignment.onsetOf.every((which) => which !== null);
  if (farS <= reachS || (isWhole && near.alignment.cost < CLEARLY_BETTER)) return near;
  const wide = { nearS, reachS: farS };
  const all = timesOf(onsetsIn(wide));
  const far = align(notes, all, wide);
  // Held against each other over the same onsets: what lies beyond the nearer guess counts for both.
  if (far.cost + CLEARLY_BETTER >= align(notes, all, guess).cost) return near;
  const found = settled({ ...far, ambiguous: true });
  return found.before.length > 0 ? near : found;
};
