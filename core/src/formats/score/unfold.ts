import { MAX_BARS, type ScoreBar, UnreadableScore } from './score';

type Marked = Pick<ScoreBar, 'startsRepeat' | 'endsRepeat' | 'endings' | 'segno' | 'coda' | 'fine' | 'toCoda' | 'jump'>;

/**
 * The order in which bars are played, by their index: repeats, endings, da capo and dal segno with fine and coda written out. After a
 * jump repeats are not made again (common practice). Throws {@link UnreadableScore} where it would not come to an end.
 */
export const unfoldedOrder = (bars: readonly Marked[]): number[] => {
  const order: number[] = [];
  let start = 0;
  let time = 1;
  let jumped = false;
  for (let k = 0; k < bars.length; ) {
    if (order.length > MAX_BARS)
      throw new UnreadableScore(`With its repeats this has more than ${MAX_BARS} bars. Take a part of it.`);
    const bar = bars[k] as Marked;
    if (bar.startsRepeat && start !== k) {
      start = k;
      time = 1;
    }
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
    if (bar.endsRepeat && !jumped && time < bar.endsRepeat) {
      time += 1;
      k = start;
      continue;
    }
    if (bar.endsRepeat) {
      // What follows begins anew, unless another ending of the same repeat does.
      const next = bars[k + 1];
      if (!next?.endings || next.endings.includes(1)) time = 1;
      start = k + 1;
    }
    if (bar.jump && !jumped) {
      jumped = true;
      k =
        bar.jump === 'da capo'
          ? 0
          : Math.max(
              0,
              bars.findIndex(({ segno }) => segno),
            );
      continue;
    }
    k += 1;
  }
  return order;
};

/** Whether the ending that bar `k` belongs to is the last of its repeat. */
const isLastEnding = (bars: readonly Marked[], k: number): boolean => {
  const own = bars[k]?.endings?.join();
  let next = k;
  while (bars[next]?.endings?.join() === own) next += 1;
  return bars[next]?.endings === undefined;
};
