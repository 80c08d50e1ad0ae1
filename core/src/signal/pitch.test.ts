import { describe, expect, it } from 'vitest';
import { checkPitches } from '../measure/check-pitch';
import { BLOWN_REED, PLUCKED_STRING } from '../player/instruments';
import { chance } from '../stats/random';
import { midiOfHz, pitchOfNote } from './pitch';

const RATE = 48_000;

describe('the pitch of a note', () => {
  it('counts from A = 440 Hz (ISO 16), and C4 is 261.63 Hz', () => {
    expect(midiOfHz(440)).toBe(69);
    expect(midiOfHz(261.6256)).toBeCloseTo(60, 4);
  });

  it.each([41.2, 98, 261.63, 440, 1046.5, 2093])('is found for a tone of %f Hz within 3 cents', (hz) => {
    const tone = Float32Array.from({ length: 9600 }, (_, n) => {
      const phase = (2 * Math.PI * hz * n) / RATE;
      return 0.4 * Math.sin(phase) + 0.2 * Math.sin(2 * phase) + 0.1 * Math.sin(3 * phase);
    });
    const pitch = pitchOfNote(tone, 0, tone.length, RATE);
    expect(Math.abs((pitch ?? 0) - midiOfHz(hz))).toBeLessThan(0.03);
  });

  it.each([BLOWN_REED, PLUCKED_STRING])('is found for a $name', (instrument) => {
    for (const midi of [45, 57, 64, 72]) {
      const hz = 440 * 2 ** ((midi - 69) / 12);
      const note = instrument.note({ hz, lengthS: 0.5, sampleRateHz: RATE, chance: chance(midi) });
      const pitch = pitchOfNote(note, 0, 12_000, RATE);
      // A Karplus–Strong loop of whole samples is itself up to half a sample out of tune.
      expect(Math.abs((pitch ?? 0) - midi)).toBeLessThan(0.3);
    }
  });

  it('is not claimed for noise, silence or a very short note', () => {
    const { normal } = chance(2);
    const noise = Float32Array.from({ length: 9600 }, () => 0.2 * normal());
    expect(pitchOfNote(noise, 0, 9600, RATE)).toBeNull();
    expect(pitchOfNote(new Float32Array(9600), 0, 9600, RATE)).toBeNull();
    expect(pitchOfNote(noise, 0, 1200, RATE)).toBeNull();
  });
});

describe('checking pitches', () => {
  const expected = [[60], [62], [64], [65], [67]];

  it('flags a wrong note and tells cents of the others', () => {
    const { results } = checkPitches([60.1, 62, 63.05, 65, 67], expected);
    expect(results.map((result) => result.wrong)).toEqual([false, false, true, false, false]);
    expect(results[0]?.cents).toBeCloseTo(10, 6);
  });

  it('takes a transposition off that most notes agree on', () => {
    const { results, transposition } = checkPitches([58, 60, 62, 64, 65], expected);
    expect(transposition).toBe(-2);
    expect(results.filter((result) => result.wrong)).toHaveLength(1);
  });

  it('forgives octaves and says nothing of what was not clear', () => {
    const { results } = checkPitches([60, 74, null, 65, 67], expected);
    expect(results.some((result) => result.wrong)).toBe(false);
    expect(results[2]?.cents).toBeNull();
  });
});
