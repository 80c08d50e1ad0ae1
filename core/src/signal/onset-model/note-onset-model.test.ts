import { describe, expect, it } from 'vitest';
import { PLUCKED_STRING } from '../../player/instruments';
import type { Onset } from '../../schema/measures';
import { chance } from '../../stats/random';
import { mixInto } from '../mix';
import { pitchOfNote } from '../pitch';
import { createNoteOnsetModel, fadeDb } from './note-onset-model';

const RATE = 48_000;

describe('the ear for notes', () => {
  it('tells the same while the sound goes on as from the whole of it, however it is cut', () => {
    const random = chance(6);
    const timesS = [0.2, 0.55, 0.65, 1.7, 1.73, 2.4, 2.6];
    const sound = new Float32Array(2.7 * RATE);
    const onsets = timesS.map((timeS, k) => {
      const hz = 440 * 2 ** (((k * 5) % 13) / 12);
      const samples = PLUCKED_STRING.note({ hz, lengthS: 0.3, sampleRateHz: RATE, chance: random });
      mixInto(sound, 0, { frame: Math.round(timeS * RATE), samples });
      return { timeS: timeS + 10, levelDb: -20 };
    });
    const at = (k: number) => Math.round((timesS[k] ?? 2.7) * RATE);
    const whole: Onset[] = [...onsets];
    const ear = createNoteOnsetModel(RATE, 10 * RATE, true);
    ear.append(sound);
    ear.hear(whole, true);
    whole.slice(0, -1).forEach((onset, k) => {
      expect(onset.pitch ?? null).toBe(pitchOfNote(sound, at(k), at(k + 1), RATE));
    });
    expect(whole.filter((onset) => onset.pitch !== undefined).length).toBeGreaterThanOrEqual(5);
    for (const size of [128, 4801, 60_000, sound.length]) {
      const own = createNoteOnsetModel(RATE, 10 * RATE, true);
      const heard: typeof whole = [];
      for (let at = 0; at < sound.length; at += size) {
        own.append(sound.subarray(at, at + size));
        // A detector tells of an onset a little later.
        const nowS = 10 + Math.min(at + size, sound.length) / RATE;
        heard.push(...onsets.slice(heard.length).filter((onset) => onset.timeS < nowS - 0.09));
        own.hear(heard, false);
      }
      own.hear(heard, true);
      expect(heard).toEqual(whole);
    }
  });

  it('tells a note that ends early from one that rings on', () => {
    const levelDb = -9;
    const ringing = Float32Array.from({ length: RATE / 2 }, (_, n) => 0.5 * Math.sin(n / 20) * Math.exp(-n / RATE));
    const short = ringing.map((value, n) => (n < 0.1 * RATE ? value : 0.001 * value));
    expect(fadeDb(ringing, levelDb, 0.25 * RATE, RATE)).toBeLessThan(4);
    expect(fadeDb(short, levelDb, 0.25 * RATE, RATE)).toBeGreaterThan(40);
    expect(fadeDb(ringing, levelDb, 0.04 * RATE, RATE)).toBeNull();
  });
});
