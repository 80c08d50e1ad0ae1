import { describe, expect, it } from 'vitest';
import { readAbc } from './abc-read';
import { PASSAGE_FORMATS, readPassageFile } from './passage-files';
import { UnreadableScore } from './score';
import { readText } from './text-read';

// Each of these kept a reader busy for longer than anyone would wait: by trying every way to share spaces out, or by going back for every
// sign. Nothing is timed here: an input that is not done with ends the run.
const LONG = 50_000;
const bytes = (text: string) => new TextEncoder().encode(text);
const refused = (read: () => unknown) => expect(read).toThrow(UnreadableScore);

describe('an input that invites endless work', () => {
  it.each([
    ['per cent signs', '% '.repeat(LONG)],
    ['per cent signs, one a line', '%\n'.repeat(LONG)],
    ['a comment and many spaces', `%${' '.repeat(LONG)}X`],
  ])('of %s is told from a tune at once', async (_what, text) => {
    for (const { begins } of PASSAGE_FORMATS) begins(bytes(text));
    await expect(readPassageFile('typed.txt', bytes(text), 'x')).rejects.toThrow(UnreadableScore);
  });

  it('of spaces after a staff or a voice is no heading', () => {
    refused(() => readText(`staff 1${' '.repeat(LONG)}x`));
    refused(() => readText(`voice 1${' '.repeat(LONG)}x`));
  });

  it.each(['{', '{c', '&', '[', '[c', '(', '(3', '[K:'])('of “%s” over and over is read or refused', (sign) => {
    try {
      readAbc(`X:1\nK:C\n${sign.repeat(LONG)}`);
    } catch (error) {
      expect(error).toBeInstanceOf(UnreadableScore);
    }
  });

  it('of notes with a length of almost nothing is refused', () =>
    refused(() => readAbc(`X:1\nT:a\nM:4/4\nL:1/${'163'.repeat(67)}\nK:C\n${'D2 E2 '.repeat(400)}|\n`)));

  it('is no tune that has comments before it, headings with spaces, or grace notes by the dozen', async () => {
    const tune = `% gathered\n%  by hand\n\nX:1\nT:Gull Step\nM:4/4\nL:1/8\nK:C\n${`${'{c}d '.repeat(8)}|`.repeat(25)}\n`;
    expect((await readPassageFile('tune.txt', bytes(tune), 'x')).passage.title).toBe('Gull Step');
    expect(readText('staff 1   voice 2 : C4/4 D E F').bars).toHaveLength(1);
  });

  it('of a track for every note is read, and each can be taken', async () => {
    const tracks = 20_000;
    const head = [0x4d, 0x54, 0x68, 0x64, 0, 0, 0, 6, 0, 1, tracks >> 8, tracks & 255, 0, 96];
    const track = [0x4d, 0x54, 0x72, 0x6b, 0, 0, 0, 12, 0, 0x90, 60, 64, 96, 0x80, 60, 0, 0, 0xff, 0x2f, 0];
    const file = Uint8Array.from([head, ...Array.from({ length: tracks }, () => track)].flat());
    const { parts } = await readPassageFile('tracks.mid', file, 'tracks');
    expect(parts).toHaveLength(2 * tracks - 1);
    expect((await readPassageFile('tracks.mid', file, 'tracks', `${tracks - 1}/0`)).passage.notes).toHaveLength(1);
  });
});
