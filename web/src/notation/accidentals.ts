import { drumPartOf, keyAlters } from '@isochron/core/material';
import { barStarts, type Exact, fifthsAt, type Grid } from '@isochron/core/schema';
import { onceForEach } from '../app/once-for-each';
import { barOf, notationScore, type ScoreSymbol } from './score';

/** Which notes of a symbol, counted in its pitches, have a sign before them, and how far each alters. */
type Signs = { note: number; alter: number }[];

/** Accidentals as print has them: where a note differs from its key, or from what stands before it in its bar; never after a tie. */
const signsOn = (grid: Grid, staff: number): Map<ScoreSymbol, Signs> => {
  const lines = barStarts(grid);
  const isKit = grid.staves[staff - 1]?.clef === 'percussion';
  const signs = new Map<ScoreSymbol, Signs>();
  let bar = Number.NaN;
  let inForce = new Map<string, number>();
  const tied = new Map<string, Exact>();
  for (const symbol of notationScore(grid, staff)
    .flat()
    .sort((a, b) => a.at.compare(b.at))) {
    if (symbol.isRest) continue;
    const own = barOf(symbol.at, lines);
    if (own !== bar) {
      bar = own;
      inForce = new Map();
    }
    const alters = keyAlters(fifthsAt(grid, symbol.at));
    const shown: Signs = [];
    symbol.pitches.forEach((pitch, note) => {
      // A part of a kit is no pitch.
      if (!pitch || (isKit && drumPartOf(pitch))) return;
      const place = `${pitch.step}${pitch.octave}`;
      const isContinued = tied.get(`${symbol.voice}/${place}`)?.equals(symbol.at);
      if (!isContinued && (inForce.get(place) ?? alters[pitch.step]) !== pitch.alter) shown.push({ note, alter: pitch.alter });
      if (!isContinued) inForce.set(place, pitch.alter);
      if (symbol.tied) tied.set(`${symbol.voice}/${place}`, symbol.at.add(symbol.length));
    });
    if (shown.length > 0) signs.set(symbol, shown);
  }
  return signs;
};

/** The accidentals of a staff: of each symbol that has any, its signs. */
export const accidentalsOf = (grid: Grid, staff: number): ReadonlyMap<ScoreSymbol, Signs> =>
  everySign(grid)[staff - 1] ?? new Map();

// A long passage is drawn system by system: its accidentals are worked out once.
const everySign = onceForEach((grid: Grid) => grid.staves.map((_, k) => signsOn(grid, k + 1)));

/** The places at which a note of any staff has an accidental, as fractions. */
export const signedPlaces = onceForEach(
  (grid: Grid) => new Set(everySign(grid).flatMap((signs) => [...signs.keys()].map(({ at }) => at.toFraction()))),
);
