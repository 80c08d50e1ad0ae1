import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { readMusicXml } from '../formats/score/musicxml-read';
import { writeMusicXml } from '../formats/score/musicxml-write';
import { passageOfScore } from '../formats/score/score-passage';
import { readText } from '../formats/score/text-read';
import { writeText } from '../formats/score/text-write';
import { midiOf } from '../rhythm/pitch';
import { beats } from '../schema/beats';
import { barStarts } from '../schema/frame';
import { type Passage, PassageSchema } from '../schema/passage';
import { withBeatUnit, withClef, withKey, withMeter } from './edit-frame';

const typed = (notes: string, head = ''): Passage => passageOfScore(readText(`${head}\n${notes}\n`), 'typed').passage;
/** The bars of a passage as they are typed. */
const music = (passage: Passage) => {
  const text = writeText({ ...passage, title: 'x' });
  return text
    .slice(text.indexOf('\n\n') + 2)
    .trim()
    .replace(/\s+/g, ' ');
};
const sounds = ({ notes, beatUnit }: Passage) =>
  notes.map(({ at, pitch }) => `${beats(at).mul(beats(beatUnit)).toFraction()} ${pitch && midiOf(pitch)}`);

describe('another meter', () => {
  const four = typed('C4/4 D E F | G A B C5 | D/1 |');

  it('moves the bar lines and leaves the notes on their beats; the last bar is filled', () => {
    expect(music(withMeter(four, 0, { count: 3, unit: 4 }))).toBe(
      'C4/4 D4/4 E4/4 | F4/4 G4/4 A4/4 | B4/4 C5/4 D5/4~ | D5/2. |',
    );
    expect(music(withMeter(four, 0, { count: 5, unit: 4 }))).toMatch(/^C4\/4 D4\/4 E4\/4 F4\/4 G4\/4 \|/);
    expect(withMeter(four, 0, { count: 5, unit: 4 }).bars).toBe(3);
  });

  it('holds from its bar on, up to the next change, which moves by the silence before it', () => {
    expect(music(withMeter(four, 1, { count: 2, unit: 4 }))).toBe(
      'C4/4 D4/4 E4/4 F4/4 | meter=2/4 G4/4 A4/4 | B4/4 C5/4 | D5/2~ | D5/2 |',
    );
    const changes = typed('C4/4 D E F | meter=3/4 G A B | C5 D E |');
    expect(music(withMeter(changes, 0, { count: 3, unit: 4 }))).toBe(
      'C4/4 D4/4 E4/4 | F4/4 r/2 | G4/4 A4/4 B4/4 | C5/4 D5/4 E5/4 |',
    );
    expect(withMeter(four, 1, { count: 4, unit: 4 }).meters).toEqual(four.meters);
  });

  it('leaves sections over their notes, and the pickup before the first bar', () => {
    const sections = [
      { id: 'a', name: 'A', fromBar: 1, toBar: 1 },
      { id: 'b', name: 'B', fromBar: 2, toBar: 3 },
    ];
    const halved = withMeter({ ...four, sections }, 0, { count: 2, unit: 4 });
    expect(halved.sections.map(({ fromBar, toBar }) => [fromBar, toBar])).toEqual([
      [1, 2],
      [3, 6],
    ]);
    const upbeat = withMeter(typed('G4/4 | C5 D E F | G/1 |'), 0, { count: 2, unit: 4 });
    expect([upbeat.pickup, upbeat.bars]).toEqual(['1', 4]);
  });
});

describe('another key', () => {
  it('writes the same notes with other signs, up to the next change', () => {
    const passage = typed('F4/1 | G/1 | key=G A/1 |');
    const keyed = withKey(passage, 1, -2);
    expect(music(keyed)).toBe('F4/1 | key=Bb G4/1 | key=G A4/1 |');
    expect(withKey(keyed, 1, 0).keys).toEqual(passage.keys);
    expect(withKey(passage, 0, 1).keys).toEqual([{ at: '0', fifths: 1 }]);
  });
});

describe('another clef', () => {
  const passage = typed('C4/4 D E F | clef=bass G3/4 F E D | clef=treble C4/1 |');

  it('holds from its bar on, up to the next change', () => {
    expect(music(withClef(passage, 1, 1, 'alto'))).toBe(
      'C4/4 D4/4 E4/4 F4/4 | clef=alto G3/4 F3/4 E3/4 D3/4 | clef=treble C4/1 |',
    );
    expect(music(withClef(passage, 1, 1, 'treble'))).toBe('C4/4 D4/4 E4/4 F4/4 | G3/4 F3/4 E3/4 D3/4 | C4/1 |');
    expect(music(withClef(passage, 2, 1, 'bass'))).toBe('C4/4 D4/4 E4/4 F4/4 | clef=bass G3/4 F3/4 E3/4 D3/4 | C4/1 |');
  });

  it('of the first bar is that of the staff; later ones stay what they were', () => {
    const tenor = withClef(passage, 0, 1, 'tenor');
    expect(tenor.staves).toEqual([{ clef: 'tenor' }]);
    expect(music(tenor)).toBe('C4/4 D4/4 E4/4 F4/4 | clef=bass G3/4 F3/4 E3/4 D3/4 | clef=treble C4/1 |');
  });
});

describe('another beat', () => {
  it('lets everything last as long as it did', () => {
    const passage = typed('C4/8 D E F G A | B/4. C5 |', 'meter: 6/8\ntempo: 60');
    const counted = withBeatUnit(passage, '1/8');
    expect(counted.goalBpm).toBe(180);
    expect(music(counted)).toBe(music(passage));
    expect(sounds(counted)).toEqual(sounds(passage));
    expect(withBeatUnit(counted, '3/8')).toEqual({ ...passage, text: undefined });
  });
});

describe('any edits of the frame, in any order', () => {
  it('leave a passage that holds together, with its notes, and that comes back from its files', () => {
    const start = typed('C4/4 D E~ | meter=3/4 E/4 F G | key=F "F" "_la" A4/8 Bb C5 D E F | clef=bass C3/2. |', 'meter: 3/4');
    const edit = fc.oneof(
      fc.tuple(fc.constant('meter'), fc.nat(8), fc.constantFrom([2, 4], [3, 4], [6, 8], [5, 8], [4, 4])),
      fc.tuple(fc.constant('key'), fc.nat(8), fc.tuple(fc.integer({ min: -7, max: 7 }), fc.constant(0))),
      fc.tuple(fc.constant('clef'), fc.nat(8), fc.tuple(fc.nat(6), fc.constant(0))),
      fc.tuple(fc.constant('beat'), fc.nat(8), fc.tuple(fc.nat(3), fc.constant(0))),
    );
    const clefs = ['treble', 'bass', 'alto', 'tenor', 'soprano', 'mezzo-soprano', 'baritone'] as const;
    fc.assert(
      fc.property(fc.array(edit, { maxLength: 12 }), (edits) => {
        let passage = start;
        for (const [kind, place, [first = 0, second = 4]] of edits) {
          const bar = place % passage.bars;
          if (kind === 'meter') passage = withMeter(passage, bar, { count: first, unit: second as 4 });
          else if (kind === 'key') passage = withKey(passage, bar, first);
          else if (kind === 'clef') passage = withClef(passage, bar, 1, clefs[first] ?? 'treble');
          else passage = withBeatUnit(passage, ['1/8', '1/4', '3/8', '1/2'][first] ?? '1/4');
        }
        expect(PassageSchema.safeParse(passage).error).toBeUndefined();
        expect(passage.notes.map(({ pitch }) => pitch)).toEqual(start.notes.map(({ pitch }) => pitch));
        const lines = new Set(barStarts(passage).map((line) => line.toFraction()));
        for (const { at } of [...passage.keys, ...passage.meters]) expect(lines).toContain(beats(at).toFraction());
        const again = passageOfScore(readMusicXml(writeMusicXml(passage)), 'again').passage;
        expect(again.bars).toBe(passage.bars);
        expect(again.staves).toEqual(passage.staves);
      }),
      { numRuns: 150 },
    );
  });
});
