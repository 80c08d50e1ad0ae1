import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { readWav, UnreadableWav, writeWav } from './wav';

/** Writes a WAV of any coding from scratch, by the RIFF specification. */
const wavOf = (options: {
  coding: number;
  bits: number;
  channels?: number;
  rate?: number;
  frames: number[][];
  extensible?: boolean;
  cutBytes?: number;
  extraChunk?: boolean;
}): Uint8Array => {
  const { coding, bits, channels = 1, rate = 48_000, frames, extensible, cutBytes = 0, extraChunk } = options;
  const bytesPer = bits / 8;
  const data = Buffer.alloc(frames.length * channels * bytesPer);
  frames.flat().forEach((value, k) => {
    const at = k * bytesPer;
    if (coding === 3) bits === 32 ? data.writeFloatLE(value, at) : data.writeDoubleLE(value, at);
    else if (bits === 8) data.writeUInt8(Math.round(value * 127) + 128, at);
    else data.writeIntLE(Math.round(value * (2 ** (bits - 1) - 1)), at, bytesPer);
  });
  const format = Buffer.alloc(extensible ? 40 : 16);
  format.writeUInt16LE(extensible ? 0xfffe : coding, 0);
  format.writeUInt16LE(channels, 2);
  format.writeUInt32LE(rate, 4);
  format.writeUInt32LE(rate * channels * bytesPer, 8);
  format.writeUInt16LE(channels * bytesPer, 12);
  format.writeUInt16LE(bits, 14);
  if (extensible) format.writeUInt16LE(coding, 24);
  const chunk = (id: string, body: Buffer) => {
    const head = Buffer.alloc(8);
    head.write(id, 0, 'latin1');
    head.writeUInt32LE(body.length, 4);
    return Buffer.concat([head, body, Buffer.alloc(body.length % 2)]);
  };
  const body = Buffer.concat([
    Buffer.from('WAVE', 'latin1'),
    chunk('fmt ', format),
    ...(extraChunk ? [chunk('LIST', Buffer.from('odd'))] : []),
    chunk('data', data),
  ]);
  const whole = Buffer.concat([chunk('RIFF', body)]);
  return new Uint8Array(whole.subarray(0, whole.length - cutBytes));
};

const wave = Array.from({ length: 200 }, (_, n) => [0.5 * Math.sin(n / 5)]);

describe('reading WAV', () => {
  it.each([
    [1, 8, 2],
    [1, 16, 4],
    [1, 24, 6],
    [1, 32, 7],
    [3, 32, 7],
    [3, 64, 7],
  ])('understands coding %i of %i bits', (coding, bits, digits) => {
    const { samples, sampleRateHz, notes } = readWav(wavOf({ coding, bits, frames: wave }));
    expect(sampleRateHz).toBe(48_000);
    expect(samples).toHaveLength(200);
    expect(notes).toEqual([]);
    samples.forEach((value, n) => {
      expect(value).toBeCloseTo(wave[n]?.[0] ?? 0, digits - 1);
    });
  });

  it.each([8000, 44_100, 192_000])('takes %i Hz', (rate) => {
    expect(readWav(wavOf({ coding: 1, bits: 16, rate, frames: wave })).sampleRateHz).toBe(rate);
  });

  it('averages stereo, reads the extensible form and passes over other chunks', () => {
    const frames = Array.from({ length: 50 }, () => [0.5, -0.25]);
    const { samples } = readWav(wavOf({ coding: 1, bits: 24, channels: 2, frames, extensible: true, extraChunk: true }));
    expect(samples).toHaveLength(50);
    expect(samples[10]).toBeCloseTo(0.125, 5);
  });

  it('reads a file that is cut short as far as it goes, and says so', () => {
    const { samples, notes } = readWav(wavOf({ coding: 1, bits: 16, frames: wave, cutBytes: 101 }));
    expect(samples).toHaveLength(149);
    expect(notes[0]).toMatch(/cut short/);
  });

  it.each([
    ['nothing', new Uint8Array(0), /empty/],
    ['something else', new TextEncoder().encode('This is a letter, not a recording.'), /not a WAV/],
    ['a file cut in its head', wavOf({ coding: 1, bits: 16, frames: wave }).slice(0, 30), /cut short/],
    ['no frames', wavOf({ coding: 1, bits: 16, frames: [] }), /no sound/],
    ['an unknown coding', wavOf({ coding: 85, bits: 16, frames: wave }), /not supported/],
    ['a rate of 4000 Hz', wavOf({ coding: 1, bits: 16, rate: 4000, frames: wave }), /4000 Hz/],
    ['a rate of 384 kHz', wavOf({ coding: 1, bits: 16, rate: 384_000, frames: wave }), /384000 Hz/],
  ])('refuses %s with a sentence', (_what, bytes, message) => {
    expect(() => readWav(bytes)).toThrow(UnreadableWav);
    expect(() => readWav(bytes)).toThrow(message);
  });

  it('never fails otherwise, whatever bytes it gets', () => {
    const start = wavOf({ coding: 1, bits: 16, frames: wave.slice(0, 8) });
    fc.assert(
      fc.property(fc.uint8Array({ maxLength: 24 }), fc.nat({ max: 50 }), (noise, at) => {
        const bytes = Uint8Array.from(start);
        bytes.set(noise.subarray(0, Math.max(0, bytes.length - at)), at);
        try {
          readWav(bytes);
        } catch (error) {
          expect(error).toBeInstanceOf(UnreadableWav);
        }
      }),
      { numRuns: 2000 },
    );
  });
});

describe('writing WAV', () => {
  it('gives back what was written, to 16 bits, clipped at full scale', () => {
    const { samples, sampleRateHz } = readWav(writeWav(Float32Array.of(0, 0.25, -0.5, 2, -2), 44_100));
    expect(sampleRateHz).toBe(44_100);
    [0, 0.25, -0.5, 1, -1].forEach((value, n) => {
      expect(samples[n]).toBeCloseTo(value, 4);
    });
  });
});
