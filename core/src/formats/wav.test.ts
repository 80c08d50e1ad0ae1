import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { UnreadableWav } from './sound-head';
import { openWav, readWav } from './wav';
import { wavHead, writeWav } from './wav-write';

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

describe('WAV as recorders write it', () => {
  const plain = wavOf({ coding: 1, bits: 16, frames: wave });
  const expected = readWav(plain).samples;
  const DATA_SIZE_AT = 40;
  const chunk = (id: string, body: Uint8Array, size = body.length) =>
    Buffer.concat([Buffer.from(id, 'latin1'), Buffer.from(Uint32Array.of(size).buffer), body]);
  const format = chunk('fmt ', plain.subarray(20, 36));
  const data = plain.subarray(44);
  const file = (form: string, ...chunks: Uint8Array[]) =>
    new Uint8Array(Buffer.concat([chunk(form, Buffer.from('WAVE', 'latin1'), 0xffff_ffff), ...chunks]));
  const sizes = (dataBytes: number) => new Uint8Array(BigUint64Array.of(0n, BigInt(dataBytes), 0n, 0n).buffer).subarray(0, 28);

  it.each([0, 0xffff_ffff])('is read to its end where the length of the sound was left at %i', (size) => {
    const open = Uint8Array.from(plain);
    new DataView(open.buffer).setUint32(DATA_SIZE_AT, size, true);
    const { samples, notes } = readWav(open);
    expect(samples).toEqual(expected);
    expect(notes[0]).toContain('does not say how long it is');
  });

  it('with no sound in it is not taken for one that is still open, though other chunks follow', () => {
    expect(() => readWav(file('RIFF', format, chunk('data', new Uint8Array(0)), chunk('LIST', Buffer.from('INFO'))))).toThrow(
      /no sound/,
    );
  });

  it.each(['RF64', 'BW64'])('over 4 GiB (%s) takes its length from the chunk that can say it', (form) => {
    const long = file(form, chunk('ds64', sizes(data.length - 100)), format, chunk('data', data, 0xffff_ffff));
    expect(readWav(long)).toMatchObject({ samples: expected.subarray(0, expected.length - 50), notes: [] });
    const open = file(form, chunk('ds64', sizes(0xffff_ffff)), format, chunk('data', data, 0xffff_ffff));
    expect(readWav(open).samples).toEqual(expected);
  });

  it.each([true, false])('passes over an odd chunk, whether or not it is padded (%s)', (isPadded) => {
    const odd = Buffer.concat([chunk('LIST', Buffer.from('odd')), Buffer.alloc(isPadded ? 1 : 0)]);
    expect(readWav(file('RIFF', odd, format, chunk('data', data))).samples).toEqual(expected);
  });

  it('is read by parts as it is read whole, of any coding', () => {
    for (const [coding, bits] of [
      [1, 16],
      [1, 24],
      [3, 32],
    ] as const) {
      const bytes = wavOf({ coding, bits, channels: 2, frames: wave.map(([v]) => [v as number, -0.3]), extraChunk: true });
      const whole = readWav(bytes).samples;
      const parts = openWav({ size: bytes.length, read: (from, to) => bytes.slice(from, to) });
      expect(parts.frames).toBe(whole.length);
      expect(parts.read(37, 120)).toEqual(whole.subarray(37, 120));
      expect(parts.read(190, 400)).toEqual(whole.subarray(190));
      expect(parts.read(-5, 3)).toEqual(whole.subarray(0, 3));
      expect(parts.read(300, 400)).toHaveLength(0);
    }
  });
});

describe('writing WAV', () => {
  it('has a head that a reader of the long form understands, for four hours at 192 kHz', () => {
    const samples = 4 * 3600 * 192_000 + 7;
    const head = wavHead(samples, 192_000);
    const read = (from: number, to: number) => head.slice(from, Math.min(to, head.length));
    const { frames, sampleRateHz, notes } = openWav({ size: head.length + 2 * samples, read });
    expect({ frames, sampleRateHz, notes }).toEqual({ frames: samples, sampleRateHz: 192_000, notes: [] });
    expect(String.fromCharCode(...head.subarray(0, 4))).toBe('RF64');
    expect(String.fromCharCode(...wavHead(2 * 3600 * 96_000, 96_000).subarray(0, 4))).toBe('RIFF');
  });

  it('gives back what was written, to 16 bits, clipped at full scale', () => {
    const { samples, sampleRateHz } = readWav(writeWav(Float32Array.of(0, 0.25, -0.5, 2, -2), 44_100));
    expect(sampleRateHz).toBe(44_100);
    [0, 0.25, -0.5, 1, -1].forEach((value, n) => {
      expect(samples[n]).toBeCloseTo(value, 4);
    });
  });
});
