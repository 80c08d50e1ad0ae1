import { readWav, UnreadableWav } from '@isochron/core/signal';
import { describe, expect, it } from 'vitest';
import REFERENCE from '../../core/src/formats/fixtures/sounds.json' with { type: 'json' };
import FILES from './fixtures/flac.json' with { type: 'json' };
import { isFlac, readFlac } from './read-flac';

/** An invented tone of 20 ms at 8 kHz, written by FFmpeg 5.1.9; that of 8 bit by libFLAC's own encoder. */
const bytesOf = (name: keyof typeof FILES) => new Uint8Array(Buffer.from(FILES[name], 'base64'));
const tone = readWav(new Uint8Array(Buffer.from(REFERENCE['ref.wav'], 'base64')));

describe('FLAC files that another program writes', () => {
  it.each(['16 bit', '24 bit, two channels', 'opposite channels'] as const)(
    '%s: the same sound, sample by sample',
    async (name) => {
      expect(isFlac(bytesOf(name))).toBe(true);
      const { samples, sampleRateHz, notes } = await readFlac(bytesOf(name));
      expect(sampleRateHz).toBe(8000);
      expect(samples).toEqual(tone.samples);
      expect(notes).toHaveLength(name === 'opposite channels' ? 1 : 0);
    },
  );

  it('cut short or damaged are read as far as they go, and that is said', async () => {
    const whole = bytesOf('16 bit');
    expect((await readFlac(whole)).notes).toEqual([]);
    // The sum of all samples is told by the head (RFC 9639, 8.2), 18 bytes into it.
    const damaged = await readFlac(whole.map((byte, at) => (at === 4 + 4 + 20 ? byte ^ 1 : byte)));
    expect(damaged.notes[0]).toMatch(/damaged/);
    for (const length of [whole.length - 30, 20])
      await expect(readFlac(whole.subarray(0, length))).rejects.toThrow(UnreadableWav);
  });

  it('of another depth are refused with what to do', async () => {
    await expect(readFlac(bytesOf('8 bit'))).rejects.toThrow('8 bit is not supported. Export it as 16 or 24 bit');
  });

  it('never fails otherwise, whatever byte is wrong', async () => {
    const whole = bytesOf('16 bit');
    for (let at = 0; at < whole.length; at += 7)
      for (const flip of [1, 0x80, 0xff]) {
        try {
          await readFlac(whole.map((byte, k) => (k === at ? byte ^ flip : byte)));
        } catch (error) {
          expect(error).toBeInstanceOf(UnreadableWav);
        }
      }
  });
});
