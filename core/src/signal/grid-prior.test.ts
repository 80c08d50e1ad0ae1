import { describe, expect, it } from 'vitest';
import { firstDrill } from '../plan/practice-config';
import { BLOWN_REED, PLUCKED_STRING } from '../player/instruments';
import { renderPlaying } from '../player/render';
import { simulatePlaying } from '../player/simulate';
import { builtInPassage } from '../rhythm/built-in-passages';
import type { Passage } from '../schema/passage';
import { STEADY } from '../schema/skill';
import { chance } from '../stats/random';
import { expectedNotes } from '../time/repetition-plan';
import { constantTempo } from '../time/tempo-map';
import { detectOnsets } from './detect-onsets';
import { gridPrior } from './grid-prior';

const RATE = 48_000;
const drill = firstDrill(builtInPassage('five-steps') as Passage);

const sounding = (options: { tempoBpm: number; missedShare?: number; seed?: number; instrument?: typeof BLOWN_REED }) => {
  const { tempoBpm, missedShare = 0, seed = 3, instrument = PLUCKED_STRING } = options;
  const notes = expectedNotes(drill.grid, constantTempo(tempoBpm), 0.5);
  const played = simulatePlaying(notes, { ...STEADY, spreadMs: 8, missedShare }, constantTempo(tempoBpm), seed);
  const lengthS = (notes.at(-1)?.timeS ?? 0) + 1.2;
  return {
    notes,
    played,
    sound: renderPlaying({
      played,
      grid: drill.grid,
      tempo: constantTempo(tempoBpm),
      instrument,
      sampleRateHz: RATE,
      lengthS,
      seed,
      noiseDb: -60,
    }),
  };
};

const times = (sound: Float32Array, expectedS: readonly number[] | null) =>
  detectOnsets(sound, RATE, expectedS ? { prior: gridPrior(expectedS) } : {}).map((onset) => onset.timeS);

describe('the grid as prior', () => {
  it('favours the neighbourhood of expected notes a little, and discourages what lies between', () => {
    const prior = gridPrior([1, 1.25, 1.5]);
    expect(prior(1.252)).toBeGreaterThan(0);
    expect(prior(1.375)).toBeLessThan(0);
    expect(gridPrior([])(1)).toBe(0);
  });

  it('never invents a note: not in silence, noise or a held tone', () => {
    const expectedS = Array.from({ length: 40 }, (_, k) => 0.1 * k);
    const { normal } = chance(4);
    const length = 4 * RATE;
    expect(times(new Float32Array(length), expectedS)).toEqual([]);
    expect(
      times(
        Float32Array.from({ length }, () => 0.01 * normal()),
        expectedS,
      ),
    ).toEqual([]);
    const held = Float32Array.from(
      { length },
      (_, n) => 0.2 * Math.min(1, n / RATE) * Math.sin((2 * Math.PI * 220 * n) / RATE),
    );
    expect(times(held, expectedS).filter((timeS) => timeS > 0.3)).toEqual([]);
  });

  it.each([PLUCKED_STRING, BLOWN_REED])('never moves a note of a $name, even with the wrong tempo', (instrument) => {
    for (const seed of [1, 2, 3]) {
      const { sound } = sounding({ tempoBpm: 96, seed, instrument });
      const plain = times(sound, null);
      const wrongGrid = expectedNotes(drill.grid, constantTempo(83), 0.55).map((note) => note.timeS);
      for (const timeS of times(sound, wrongGrid)) expect(plain).toContain(timeS);
      expect(times(sound, wrongGrid).length).toBeGreaterThanOrEqual(plain.length - 1);
    }
  });

  it('leaves missing notes missing', () => {
    for (const seed of [5, 6, 7, 8]) {
      const { sound, notes, played } = sounding({ tempoBpm: 80, missedShare: 0.3, seed });
      const found = times(
        sound,
        notes.map((note) => note.timeS),
      );
      expect(found).toHaveLength(played.length);
      found.forEach((timeS, k) => {
        expect(Math.abs(timeS - (played[k]?.timeS ?? 0))).toBeLessThan(0.003);
      });
    }
  });
});
