import { barStarts, type Clef, type Grid } from '@isochron/core/schema';
import { barOf, type ScoreSymbol } from './score';

/** Which voice of how many a symbol has beside it. */
export interface Side {
  voice: number;
  voices: number;
}

const ALONE: Side = { voice: 0, voices: 1 };

/**
 * Which of how many voices each symbol of a staff is in its bar: where others are silent, one has the staff for itself. What the feet play
 * on a kit stays theirs.
 */
const sidesIn = (voices: readonly ScoreSymbol[][], grid: Grid, clef: Clef): Map<ScoreSymbol, Side> => {
  const lines = barStarts(grid);
  const placed = voices.flatMap((symbols, voice) =>
    symbols.map((symbol) => ({ symbol, side: { voice, voices: voices.length }, bar: barOf(symbol.at, lines) })),
  );
  const sounding = new Map<number, Set<number>>();
  for (const { symbol, side, bar } of placed)
    if (!symbol.isRest) sounding.set(bar, (sounding.get(bar) ?? new Set()).add(side.voice));
  const isAlone = (voice: number, bar: number) => [...(sounding.get(bar) ?? [])].every((other) => other === voice);
  return new Map(
    placed.map(({ symbol, side, bar }) => [symbol, clef !== 'percussion' && isAlone(side.voice, bar) ? ALONE : side]),
  );
};

const SIDES = new WeakMap<readonly ScoreSymbol[][], Map<ScoreSymbol, Side>>();

/** The side of each symbol of a staff; a long passage is drawn system by system, so it is worked out once. */
export const sideOfEach = (voices: readonly ScoreSymbol[][], grid: Grid, clef: Clef): ((symbol: ScoreSymbol) => Side) => {
  const known = SIDES.get(voices) ?? sidesIn(voices, grid, clef);
  SIDES.set(voices, known);
  return (symbol) => known.get(symbol) ?? ALONE;
};
