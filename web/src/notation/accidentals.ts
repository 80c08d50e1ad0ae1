import { drumPartOf, keyAlters } from '@isochron/core/material';
import { barStarts, type Exact, fifthsAt, type Grid } from '@isochron/core/schema';
import { Accidental } from 'vexflow/bravura';
import type { Drawn } from './drawn-note';
import { barOf } from './score';

const ACCIDENTAL_CODES: Record<number, string> = { [-2]: 'bb', [-1]: 'b', 0: 'n', 1: '#', 2: '##' };

/** Accidentals as print has them: where a note differs from its key, or from what stands before it in its bar; never after a tie. */
export const addAccidentals = (drawn: readonly Drawn[], grid: Grid, clef: string): void => {
  const lines = barStarts(grid);
  let bar = Number.NaN;
  let inForce = new Map<string, number>();
  const tied = new Map<string, Exact>();
  for (const { symbol, note } of [...drawn].sort((a, b) => a.symbol.at.compare(b.symbol.at))) {
    if (symbol.isRest) continue;
    const own = barOf(symbol.at, lines);
    if (own !== bar) {
      bar = own;
      inForce = new Map();
    }
    const fifths = fifthsAt(grid, symbol.at);
    const alters = keyAlters(fifths);
    symbol.pitches.forEach((pitch, k) => {
      // A part of a kit is no pitch.
      if (!pitch || (clef === 'percussion' && drumPartOf(pitch))) return;
      const place = `${pitch.step}${pitch.octave}`;
      const isContinued = tied.get(`${symbol.voice}/${place}`)?.equals(symbol.at);
      if (!isContinued && (inForce.get(place) ?? alters[pitch.step]) !== pitch.alter)
        note.addModifier(new Accidental(ACCIDENTAL_CODES[pitch.alter] ?? 'n'), k);
      if (!isContinued) inForce.set(place, pitch.alter);
      if (symbol.tied) tied.set(`${symbol.voice}/${place}`, symbol.at.add(symbol.length));
    });
  }
};
