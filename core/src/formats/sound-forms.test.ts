import { describe, expect, it } from 'vitest';
import SOUNDS from './fixtures/sounds.json' with { type: 'json' };
import { A_LAW_SAMPLES, MU_LAW_SAMPLES } from './g711';
import { readWav } from './wav';
import { writeWav } from './wav-write';

/** An invented tone of 20 ms at 8 kHz, written by FFmpeg 5.1.9 in each form. */
const bytesOf = (name: keyof typeof SOUNDS) => new Uint8Array(Buffer.from(SOUNDS[name], 'base64'));
const reference = readWav(bytesOf('ref.wav'));

describe('files of sound that other programs write', () => {
  it.each(Object.keys(SOUNDS) as (keyof typeof SOUNDS)[])('%s is the same sound', (name) => {
    const { samples, sampleRateHz, notes } = readWav(bytesOf(name));
    expect([sampleRateHz, samples.length, notes]).toEqual([8000, reference.samples.length, []]);
    // Telephone codings have steps of a sixteenth of a segment at most, bytes of a 128th; all others are exact.
    const exact = name.includes('law') ? 1 / 32 : name.includes('s8') ? 1 / 128 : 1e-6;
    for (const [k, sample] of samples.entries())
      expect(Math.abs(sample - (reference.samples[k] as number))).toBeLessThanOrEqual(exact);
  });

  it('cut short are read as far as they go, and that is said; cut within their head they are refused', () => {
    for (const name of ['pcm_s16be.aiff', 'pcm_s16le.caf'] as const) {
      const half = readWav(bytesOf(name).subarray(0, -100));
      expect(half.samples.length).toBe(110);
      expect(half.notes).toEqual(['The file is cut short; what is there was read.']);
      for (const length of [13, 30, 45])
        expect(() => readWav(bytesOf(name).subarray(0, length))).toThrow(/Export it again|cut short|no sound/);
    }
  });

  it('that are compressed are refused by name', () => {
    const caf = bytesOf('pcm_s16le.caf');
    const at = Buffer.from(caf).indexOf('lpcm');
    caf.set(new TextEncoder().encode('aac '), at);
    expect(() => readWav(caf)).toThrow('The CAF file is compressed (aac). Export it as WAV (16 or 24 bit).');
    const aiff = bytesOf('pcm_alaw.aiff');
    aiff.set(new TextEncoder().encode('ima4'), Buffer.from(aiff).indexOf('alaw'));
    expect(() => readWav(aiff)).toThrow('The AIFF file is compressed (ima4).');
  });
});

describe('two channels', () => {
  const stereo = (right: number) => {
    const frames = Array.from({ length: 9000 }, (_, n) => 0.5 * Math.sin(n / 7));
    const data = new DataView(new ArrayBuffer(4 * frames.length));
    frames.forEach((value, n) => {
      data.setInt16(4 * n, 32_767 * value, true);
      data.setInt16(4 * n + 2, 32_767 * value * right, true);
    });
    const head = writeWav(new Float32Array(2 * frames.length), 8000).slice(0, 44);
    // Two channels of two bytes each, where the writer says one.
    new DataView(head.buffer).setUint16(22, 2, true);
    return new Uint8Array([...head, ...new Uint8Array(data.buffer)]);
  };
  const loudest = (samples: Float32Array) => samples.reduce((most, one) => Math.max(most, Math.abs(one)), 0);

  it('of opposite phase are heard by the first, and that is said', () => {
    const { samples, notes } = readWav(stereo(-1));
    expect(loudest(samples)).toBeCloseTo(0.5, 2);
    expect(notes).toEqual(['Its channels cancel each other out; the first one was taken alone.']);
  });

  it.each([1, 0.5, 0, -0.2])('of which the second is %f times the first are averaged', (right) => {
    const { samples, notes } = readWav(stereo(right));
    expect(loudest(samples)).toBeCloseTo((0.5 * (1 + right)) / 2, 2);
    expect(notes).toEqual([]);
  });
});

describe('the telephone codings', () => {
  // ITU-T G.711 (1988), tables 1 and 2, at 16 bits: the ends and the middle of each.
  it.each([
    ['µ-law', MU_LAW_SAMPLES, 0x80, 32_124],
    ['µ-law', MU_LAW_SAMPLES, 0x00, -32_124],
    ['µ-law', MU_LAW_SAMPLES, 0xff, 0],
    ['A-law', A_LAW_SAMPLES, 0xaa, 32_256],
    ['A-law', A_LAW_SAMPLES, 0x2a, -32_256],
    ['A-law', A_LAW_SAMPLES, 0xd5, 8],
  ])('%s has the value of its table', (_, table, byte, value) => {
    expect(32_768 * (table[byte] as number)).toBe(value);
  });
});
