import { chance } from '@isochron/core/analysis';
import { describe, expect, it } from 'vitest';
import { RATE } from '../onsets/notes';
import { CHECKS, makeCheck } from './checks';
import { convolve } from './convolve';
import { canBeHeard } from './masking';
import { inSurroundings, nothingPlayed, playSampled } from './phrases';
import { cutAtOnset, type Source, type SourceNote } from './sources';
import { addNoise, gesture, inRoom, NOISES, type Noise, rms } from './surroundings';

/** A decaying tone that begins after a silence. */
const tone = (hz: number, silentS: number, attackS = 0.005, lengthS = 1): Float32Array =>
  Float32Array.from({ length: Math.round((silentS + lengthS) * RATE) }, (_, n) => {
    const t = n / RATE - silentS;
    return t < 0 ? 0 : 0.5 * Math.min(1, t / attackS) * Math.exp(-2 * t) * Math.sin(2 * Math.PI * hz * t);
  });
const NOTES = [60, 62, 64, 65, 67].map((pitch) => cutAtOnset(pitch, tone(440 * 2 ** ((pitch - 69) / 12), 0.2)) as SourceNote);
const SOURCE: Source = { name: 'tones', family: 'blown', notes: () => NOTES };

/** Where the sound first passes a share of its peak, in seconds. */
const beginsS = (sound: Float32Array, share: number): number => {
  const peak = sound.reduce((most, value) => Math.max(most, Math.abs(value)), 0);
  return sound.findIndex((value) => Math.abs(value) > share * peak) / RATE;
};

describe('a source’s note', () => {
  it('is cut at 2 % of its peak, and its attack is measured from there to half of it', () => {
    const note = cutAtOnset(60, tone(880, 0.2, 0.05)) as SourceNote;
    // The attack rises evenly over 50 ms: 2 % of the peak after 1 ms or so, half of it after 24.
    expect(note.attackS).toBeGreaterThan(0.018);
    expect(note.attackS).toBeLessThan(0.03);
    expect(Math.abs(note.samples[0] as number)).toBeLessThan(0.02);
    expect(cutAtOnset(60, new Float32Array(RATE))).toBeNull();
  });
});

describe('convolution', () => {
  it('gives what its definition gives', () => {
    const { normal } = chance(3);
    const sound = Float32Array.from({ length: 50 }, normal);
    const response = Float32Array.from({ length: 13 }, normal);
    const direct = sound.map((_, n) =>
      response.reduce((sum, gain, k) => sum + (n - k >= 0 ? gain * (sound[n - k] as number) : 0), 0),
    );
    convolve(sound, response).forEach((value, n) => {
      expect(value).toBeCloseTo(direct[n] as number, 5);
    });
  });
});

describe('surroundings', () => {
  it('a room dies away by 60 dB in its reverberation time, and does not move the direct sound', () => {
    const click = new Float32Array(3 * RATE);
    click[1000] = 1;
    const wet = inRoom(click, chance(4), 1, 0);
    expect(wet.findIndex((value) => Math.abs(value) > 1e-9)).toBe(1000);
    const levelDb = (atS: number) =>
      20 * Math.log10(rms(wet.subarray(1000 + Math.round(atS * RATE), 1000 + Math.round((atS + 0.1) * RATE))));
    // Between a tenth of a second and nine tenths: four fifths of the way.
    expect(levelDb(0.1) - levelDb(0.9)).toBeGreaterThan(40);
    expect(levelDb(0.1) - levelDb(0.9)).toBeLessThan(56);
  });

  it.each(Object.keys(NOISES) as Noise[])('%s lies as far under the sound as was asked', (noise) => {
    const sound = tone(440, 0, 0.005, 2);
    const noisy = addNoise(sound, noise, 20, chance(6));
    const alone = noisy.map((value, n) => value - (sound[n] as number));
    expect(20 * Math.log10(rms(sound) / rms(alone))).toBeCloseTo(20, 1);
  });

  it('what is no note has a peak of one', () => {
    for (let seed = 0; seed < 40; seed += 1) {
      const sound = gesture(chance(seed));
      expect(sound.reduce((most, value) => Math.max(most, Math.abs(value)), 0)).toBeCloseTo(1, 6);
    }
  });
});

describe('a made phrase', () => {
  it('is the same for the same seed, and has its onsets in order', () => {
    const make = () => inSurroundings(playSampled(SOURCE, NOTES, chance(7)), chance(107));
    const phrase = make();
    expect(make().sound).toEqual(phrase.sound);
    const times = phrase.onsets.map(({ timeS }) => timeS);
    expect(times.length).toBeGreaterThan(4);
    expect(times).toEqual([...times].sort((a, b) => a - b));
    expect(phrase.sound.every((value) => Math.abs(value) <= 1)).toBe(true);
  });

  it('says which of its notes nobody can hear begin', () => {
    const loud = tone(300, 0, 0.005, 3);
    const begin = (frame: number, db: number) => {
      const head = tone(500, 0, 0.005, 0.06).map((value) => value * 10 ** (db / 20));
      head.forEach((value, n) => {
        loud[frame + n] = (loud[frame + n] as number) + value;
      });
      return { frame, head, isSlurred: false };
    };
    const starts = [begin(RATE, 0), begin(RATE / 2, -45)];
    const { onsets } = inSurroundings({ source: 'two', family: 'blown', sound: loud, starts }, chance(3));
    expect(onsets.map(({ isAudible }) => isAudible)).toEqual([true, false]);
  });

  it('in which nobody plays has no onset', () => {
    const { onsets, sound } = nothingPlayed(chance(2));
    expect(onsets).toEqual([]);
    expect(rms(sound)).toBeGreaterThan(0);
  });
});

describe('a check', () => {
  const check = (name: string) => CHECKS.find((one) => one.name.startsWith(name)) as (typeof CHECKS)[number];

  it('puts its first note where it says, at the level it says', () => {
    for (const levelDb of [-20, -40]) {
      const { sound, onsetsS, attacksS } = makeCheck(NOTES, { ...check('separate'), levelDb }, 0.25, 5);
      expect(onsetsS).toHaveLength(24);
      expect(attacksS).toHaveLength(24);
      expect(Math.abs(beginsS(sound, 0.02) - (onsetsS[0] as number))).toBeLessThan(0.004);
      const peak = sound.reduce((most, value) => Math.max(most, Math.abs(value)), 0);
      expect(20 * Math.log10(peak)).toBeCloseTo(levelDb, 1);
    }
  });

  it('says which notes could be heard to begin beside the others', () => {
    const loud = tone(500, 0, 0.005, 0.3);
    const scaled = (db: number) => loud.map((value) => value * 10 ** (db / 20));
    expect(canBeHeard(scaled(-30), loud)).toBe(false);
    expect(canBeHeard(scaled(-3), loud)).toBe(true);
    // Soft, but where nothing else sounds.
    expect(
      canBeHeard(
        tone(2500, 0, 0.005, 0.3).map((value) => value / 30),
        tone(500, 0, 0.3, 0.3),
      ),
    ).toBe(true);
    expect(makeCheck(NOTES, check('separate'), 0.25, 5).heard).toEqual(Array(24).fill(true));
  });

  it('says when it makes sounds that are no notes', () => {
    const { gesturesS, onsetsS } = makeCheck(NOTES, check('gestures'), 0.25, 5);
    expect(gesturesS).toHaveLength(8);
    for (const timeS of gesturesS) expect(onsetsS).not.toContain(timeS);
    expect(makeCheck(NOTES, check('separate'), 0.25, 5).gesturesS).toEqual([]);
  });
});
