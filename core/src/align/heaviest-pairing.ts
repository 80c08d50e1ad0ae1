/** A pair that may be made: of a row with a column, and what making it is worth (more than 0). */
export interface PossiblePair {
  row: number;
  column: number;
  worth: number;
}

/** A chain of pairs, from its last one back. */
interface Chain {
  pair: PossiblePair;
  before: Chain | null;
  worth: number;
}

/** The better of two chains: worth more, or as much and ending with a later column, then with a later row. */
const better = (a: Chain | null, b: Chain | null): Chain | null => {
  if (!a || !b) return a ?? b;
  if (a.worth !== b.worth) return a.worth > b.worth ? a : b;
  if (a.pair.column !== b.pair.column) return a.pair.column > b.pair.column ? a : b;
  return a.pair.row >= b.pair.row ? a : b;
};

/**
 * The monotonic pairing of greatest total worth: rows and columns each used once at most, both ascending. Possible pairs come by
 * ascending row, within a row by ascending column. Time is proportional to the number of pairs times the logarithm of the number of
 * columns (a heaviest increasing subsequence over a Fenwick tree of prefix maxima), so that rows and columns that lie far apart
 * cost nothing.
 */
export const heaviestPairing = (pairs: readonly PossiblePair[], columns: number): PossiblePair[] => {
  const tree: (Chain | null)[] = new Array(columns + 1).fill(null);
  const bestBefore = (column: number): Chain | null => {
    let best: Chain | null = null;
    for (let at = column; at > 0; at -= at & -at) best = better(best, tree[at] ?? null);
    return best;
  };
  const note = (chain: Chain): void => {
    for (let at = chain.pair.column + 1; at <= columns; at += at & -at) tree[at] = better(chain, tree[at] ?? null);
  };
  for (let end = 0; end < pairs.length; ) {
    const start = end;
    const { row } = pairs[start] as PossiblePair;
    while (pairs[end]?.row === row) end += 1;
    // From the last column back, so that a row is not used twice.
    for (let k = end - 1; k >= start; k -= 1) {
      const pair = pairs[k] as PossiblePair;
      const before = bestBefore(pair.column);
      note({ pair, before, worth: pair.worth + (before?.worth ?? 0) });
    }
  }
  const found: PossiblePair[] = [];
  for (let chain = bestBefore(columns); chain; chain = chain.before) found.push(chain.pair);
  return found.reverse();
};
