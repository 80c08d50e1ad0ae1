import { describe, expect, it } from 'vitest';
import { align } from '../align/align';
import { firstDrill } from '../plan/practice-config';
import { BLOWN_REED, type Instrument, PLUCKED_STRING, STRUCK_BAR } from '../player/instruments';
import { renderPlaying } from '../player/render';
import { type PlayedNote, simulatePlaying } from '../player/simulate';
import { builtInPassage } from '../rhythm/built-in-passages';
import type { Passage } from '../schema/passage';
import { STEADY } from '../schema/skill';
import { chance } from '../stats/random';
import { sampleSd } from '../stats/summary';
import { planRepetition } from '../time/repetition-plan';
import { constantTempo } from '../time/tempo-map';
import { createOnsetDetector, detectOnsets } from './detect-onsets';

const drill = firstDrill(builtInPassage('five-steps') as Passage);

const rendered = (options: {
  instrument: Instrument;
  tempoBpm: number;
  spreadMs: number;
  seed: number;
  sampleRateHz?: number;
}) => {
  const { instrument, tempoBpm, spreadMs, seed, sampleRateHz = 48_000 } = options;
  const plan = planRepetition({ drill, tempo: constantTempo(tempoBpm), startS: -1.5 });
  const notes = plan.notes.map((note) => ({ ...note, timeS: note.timeS - plan.downbeatS + 0.4 }));
  const played = simulatePlaying(notes, { ...STEADY, spreadMs }, constantTempo(tempoBpm), seed);
  const lengthS = (notes.at(-1)?.timeS ?? 0) + 1;
  const sound = renderPlaying({
    played,
    grid: drill.grid,
    tempo: constantTempo(tempoBpm),
    instrument,
    sampleRateHz,
    lengthS,
    seed,
    noiseDb: -65,
  });
  return { sound, played, notes, sampleRateHz };
};

const deviationsMs = (found: readonly number[], notes: readonly { timeS: number }[]) =>
  found.map((timeS, k) => (timeS - (notes[k]?.timeS ?? 0)) * 1000);

const times = (played: readonly PlayedNote[]) => played.map((note) => note.timeS);

describe.each([STRUCK_BAR, PLUCKED_STRING])('a $name', (instrument) => {
  it.each([3, 8, 15, 30])('gives back a planted spread of %i ms within 1 ms, over many seeds', (spreadMs) => {
    for (let seed = 1; seed <= 12; seed += 1) {
      const { sound, played, notes } = rendered({ instrument, tempoBpm: 60, spreadMs, seed });
      const found = detectOnsets(sound, 48_000).map((onset) => onset.timeS);
      expect(found).toHaveLength(notes.length);
      const planted = sampleSd(deviationsMs(times(played), notes));
      expect(Math.abs(sampleSd(deviationsMs(found, notes)) - planted)).toBeLessThan(1);
    }
  });
});

describe('the detector', () => {
  it('times struck notes at 12 a second within a millisecond', () => {
    const { sound, played } = rendered({ instrument: STRUCK_BAR, tempoBpm: 180, spreadMs: 4, seed: 5 });
    const found = detectOnsets(sound, 48_000).map((onset) => onset.timeS);
    expect(found).toHaveLength(played.length);
    found.forEach((timeS, k) => {
      expect(Math.abs(timeS - (played[k]?.timeS ?? 0))).toBeLessThan(0.001);
    });
  });

  it('hears a blown reed that starts slowly', () => {
    const { sound, notes } = rendered({ instrument: BLOWN_REED, tempoBpm: 90, spreadMs: 5, seed: 3 });
    const found = detectOnsets(sound, 48_000).map((onset) => onset.timeS);
    const { extra, onsetOf } = align(notes, found);
    expect(extra).toEqual([]);
    expect(onsetOf).not.toContain(null);
  });

  it.each([8000, 22_050, 44_100, 96_000, 192_000])('works at %i Hz', (sampleRateHz) => {
    const { sound, played } = rendered({ instrument: STRUCK_BAR, tempoBpm: 80, spreadMs: 6, seed: 2, sampleRateHz });
    const found = detectOnsets(sound, sampleRateHz).map((onset) => onset.timeS);
    expect(found).toHaveLength(played.length);
    found.forEach((timeS, k) => {
      expect(Math.abs(timeS - (played[k]?.timeS ?? 0))).toBeLessThan(0.0015);
    });
  });

  it('gives the same onsets however the sound is cut into blocks', () => {
    const { sound } = rendered({ instrument: PLUCKED_STRING, tempoBpm: 120, spreadMs: 8, seed: 9 });
    const whole = detectOnsets(sound, 48_000);
    for (const size of [1, 97, 512, 20_000]) {
      const detector = createOnsetDetector(48_000);
      const streamed = [];
      for (let at = 0; at < sound.length; at += size) streamed.push(...detector.push(sound.subarray(at, at + size)));
      expect([...streamed, ...detector.flush()]).toEqual(whole);
    }
  });

  it('knows a note within 100 ms of its sounding', () => {
    const { sound, played } = rendered({ instrument: STRUCK_BAR, tempoBpm: 60, spreadMs: 3, seed: 4 });
    const detector = createOnsetDetector(48_000);
    for (let at = 0; at < sound.length; at += 512) {
      for (const onset of detector.push(sound.subarray(at, at + 512))) {
        expect((at + 512) / 48_000 - onset.timeS).toBeLessThan(0.1);
      }
    }
    expect(played.length).toBeGreaterThan(10);
  });

  it('invents nothing in silence, noise or hum', () => {
    const { normal } = chance(8);
    const length = 4 * 48_000;
    expect(detectOnsets(new Float32Array(length), 48_000)).toEqual([]);
    expect(
      detectOnsets(
        Float32Array.from({ length }, () => 0.003 * normal()),
        48_000,
      ),
    ).toEqual([]);
    const hum = Float32Array.from({ length }, (_, n) => 0.05 * Math.sin((2 * Math.PI * 50 * n) / 48_000) + 0.001 * normal());
    expect(detectOnsets(hum.subarray(4800), 48_000)).toEqual([]);
    expect(detectOnsets(new Float32Array(0), 48_000)).toEqual([]);
  });
});
