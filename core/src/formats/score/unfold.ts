import { MAX_BARS, type ScoreBar, UnreadableScore } from './score';

type Marked = Pick<
  ScoreBar,
  'startsRepeat' | 'endsRepeat' | 'endings' | 'segno' | 'coda' | 'fine' | 'toCoda' | 'jump' | 'jumpTo'
>;

/**
 * The order in which bars are played, by their index: repeats, endings, da capo and dal segno with fine and coda written out. After a
 * jump repeats are not made again (common practice). Throws {@link UnreadableScore} where it would not come to an end.
 */
export const unfoldedOrder = (bars: readonly Marked[]): number[] => {
  const order: number[] = [];
  let start = 0;
  let time = 1;
  // Each jump is taken once.
  const taken = new Set<number>();
  for (let k = 0; k < bars.length; ) {
    if (order.length > MAX_BARS)
      throw new UnreadableScore(`With its repeats this has more than ${MAX_BARS} bars. Take a part of it.`);
    const bar = bars[k] as Marked;
    if (bar.startsRepeat && start !== k) {
      start = k;
      time = 1;
    }
    const jumped = taken.size > 0;
    // After a jump the last ending is taken.
    if (bar.endings && (jumped ? !isLastEnding(bars, k) : !bar.endings.includes(time))) {
      k += 1;
      continue;
    }
    order.push(k);
    if (jumped && bar.fine) break;
    if (jumped && bar.toCoda) {
      const coda = bars.findIndex((one, n) => n > k && one.coda);
      if (coda > 0) {
        k = coda;
        continue;
      }
    }
    if (bar.endsRepeat && !jumped && time < timesPlayed(bars, k)) {
      time += 1;
      k = start;
      continue;
    }
    if (bar.endsRepeat || (bar.endings && !bars[k + 1]?.endings)) {
      // What follows begins anew, unless another ending of the same repeat does.
      const next = bars[k + 1];
      if (!next?.endings || next.endings.includes(1)) time = 1;
      start = k + 1;
    }
    if (bar.jump && !taken.has(k)) {
      taken.add(k);
      k = bar.jump === 'da capo' ? 0 : segnoOf(bars, k);
      continue;
    }
    k += 1;
  }
  return order;
};

/** Whether the ending that bar `k` belongs to is the last of its repeat. */
const isLastEnding = (bars: readonly Marked[], k: number): boolean => endingsFrom(bars, k).length === 1;

/** The endings that stand one beside the other from bar `k` on, the bar's own first. */
const endingsFrom = (bars: readonly Marked[], k: number): (readonly number[])[] => {
  const endings: (readonly number[])[] = [];
  for (let next = k; bars[next]?.endings; next += 1) {
    const ending = bars[next]?.endings as number[];
    if (ending.join() !== endings.at(-1)?.join()) endings.push(ending);
  }
  return endings;
};

/**
 * How often what ends in bar `k` is played: as often as its sign says and as its endings are counted. Endings that are played again have
 * another after them, whether it has a bracket or not.
 */
const timesPlayed = (bars: readonly Marked[], k: number): number => {
  const { endsRepeat = 1, endings } = bars[k] as Marked;
  if (!endings) return endsRepeat;
  const [own, ...later] = endingsFrom(bars, k);
  const isAlone = later.length === 0 && (own as number[]).includes(1);
  return Math.max(endsRepeat, ...(own as number[]).map((time) => time + (isAlone ? 1 : 0)), ...later.flat());
};

/** Where a jump from bar `k` to a segno leads: to the one that it names, else to the nearest before it. */
const segnoOf = (bars: readonly Marked[], k: number): number => {
  const to = bars[k]?.jumpTo;
  const named = bars.findIndex(({ segno }) => segno !== undefined && segno === to);
  if (named >= 0) return named;
  const before = bars.findLastIndex(({ segno }, n) => n <= k && segno !== undefined);
  return Math.max(0, before);
};
