import { describe, expect, it } from 'vitest';
import { midiOf } from '../../rhythm/pitch';
import { playOrder } from './abc-play-order';
import { readPassageFile } from './passage-files';

/** What a tune sounds as: places in its beats, and MIDI pitches. */
const sounding = async (text: string, part?: string) => {
  const { passage } = await readPassageFile('case.abc', new TextEncoder().encode(`X:1\n${text}\n`), 'case', part);
  return passage.notes.map(({ at, pitch }) => `${at}:${pitch ? midiOf(pitch) + (passage.transposition ?? 0) : 'x'}`).join(' ');
};

/** The smallest of each kind; what is expected is what the ABC music standard 2.1 says, and what abc2midi 4.84 plays of them. */
const CASES: readonly [what: string, text: string, plays: string][] = [
  ['an accidental beside the key', 'L:1/4\nK:D phr ^F\nFBEA|', '0:66 1:70 2:63 3:69'],
  ['a key of its own accidentals', 'L:1/4\nK:D exp _b ^f\nFBCE|', '0:66 1:70 2:60 3:64'],
  ['Highland pipes', 'L:1/4\nK:HP\nfcga|', '0:78 1:73 2:79 3:81'],
  ['an accidental in every octave of its bar', 'L:1/4\nK:C\n^FfF=f|fFFF|', '0:66 1:78 2:66 3:77 4:77 5:65 6:65 7:65'],
  [
    'an accidental in its octave, where it is asked for',
    '%%propagate-accidentals octave\nL:1/4\nK:C\n^FfFf|',
    '0:66 1:77 2:66 3:77',
  ],
  [
    'an accidental of one note, where it is asked for',
    '%%propagate-accidentals not\nL:1/4\nK:C\n^FfFf|',
    '0:66 1:77 2:65 3:77',
  ],
  ['a tie that carries its accidental over the bar line', 'L:1/4\nK:C\nz3^F-|FFzz|', '3:66 4:66 5:65'],
  ['a clef an octave lower', 'L:1/4\nK:C treble-8\nCEGc|', '0:48 1:52 2:55 3:60'],
  ['a clef that changes its octave', 'L:1/4\nK:C\nCE[K:treble+8]Gc|', '0:60 1:64 2:79 3:84'],
  ['a tune that sounds elsewhere', 'L:1/4\nK:C transpose=-2\nCEGc|', '0:58 1:62 2:65 3:70'],
  ['bars of rest', 'M:3/4\nL:1/4\nK:C\nCDE|Z2|F3|', '0:60 1:62 2:64 9:65'],
  ['bars of rest after a change of meter', 'M:3/4\nL:1/4\nK:C\nCDE|[M:2/4]Z|F2|', '0:60 1:62 2:64 5:65'],
  ['five in a compound meter', 'M:6/8\nL:1/8\nK:C\n(5CDEFG A3|', '0:60 1/5:62 2/5:64 3/5:65 4/5:67 1:69'],
  ['five in a simple meter', 'M:2/4\nL:1/8\nK:C\n(5CDEFG A2|', '0:60 1/5:62 2/5:64 3/5:65 4/5:67 1:69'],
  ['parts in their order', 'P:(AB)2A\nM:1/4\nL:1/4\nK:C\nP:A\nC|\nP:B\nD|', '0:60 1:62 2:60 3:62 4:60'],
  ['parts with repeats', 'P:AB2\nM:1/4\nL:1/4\nK:C\nP:A\n|:C:|\nP:B\nD|', '0:60 1:60 2:62 3:62'],
  ['an order of parts that are not there', 'P:AQ\nM:1/4\nL:1/4\nK:C\nP:A\nC|\nP:B\nD|', '0:60 1:62'],
];
/** Jumps in words are engraving's; abc2midi does not play them. */
const JUMPS: readonly [what: string, text: string, plays: string][] = [
  ['from the beginning to the fine, in words', 'M:1/4\nL:1/4\nK:C\nC|"^Fine"D|"^D.C. al Fine"E|', '0:60 1:62 2:64 3:60 4:62'],
  ['from the beginning, as a sign', 'M:1/4\nL:1/4\nK:C\nC|!fine!D|!D.C.alfine!E|', '0:60 1:62 2:64 3:60 4:62'],
  [
    'from the sign to the coda',
    'M:1/4\nL:1/4\nK:C\nC|!segno!D|!dacoda!E|!D.S.alcoda!F|!coda!G|',
    '0:60 1:62 2:64 3:65 4:62 5:64 6:67',
  ],
  ['a chord symbol, which is no jump', 'M:1/4\nL:1/4\nK:C\nC|"Dm"D|"C"E|', '0:60 1:62 2:64'],
];

describe('ABC', () => {
  it.each([...CASES, ...JUMPS])('plays %s', async (_, text, plays) => {
    expect(await sounding(text)).toBe(plays);
  });

  it('keeps voices apart that have other numbers of lines, with words between them', async () => {
    const tune = 'M:1/4\nL:1/4\nK:C\nV:1\nC|\nw:la\nD|\nV:2\nE,|F,|\n%%MIDI program 1\nG,|A,|\n';
    expect(await sounding(tune, '0/0/0')).toBe('0:60 1:62');
    expect(await sounding(tune, '0/1/0')).toBe('0:52 1:53 2:55 3:57');
  });

  it('is written so that readers of both habits take an accidental right', async () => {
    const { PASSAGE_FORMATS } = await import('./passage-files');
    const abc = PASSAGE_FORMATS.find(({ id }) => id === 'abc');
    const { passage } = await readPassageFile('a.abc', new TextEncoder().encode('X:1\nL:1/4\nK:C\n^F=f^F=f|'), 'a');
    const written = new TextDecoder().decode(abc?.write(passage));
    for (const reach of ['pitch', 'octave']) {
      const text = written.replace('X:1\n', `%%propagate-accidentals ${reach}\n`);
      expect(await sounding(text)).toBe('0:66 1:77 2:66 3:77');
    }
  });
});

describe('the order of parts', () => {
  it('is read with groups and how often', () => {
    expect(playOrder('(AB)3')).toEqual(['A', 'B', 'A', 'B', 'A', 'B']);
    expect(playOrder('A2(B(C)2)2')).toEqual(['A', 'A', 'B', 'C', 'C', 'B', 'C', 'C']);
    expect(playOrder('A.B')).toEqual(['A', 'B']);
  });

  it('is none of what is no order, and refused where it would never end', () => {
    for (const text of ['', '(AB', 'AB)', 'A-B', '('.repeat(30)]) expect(playOrder(text)).toBeNull();
    expect(() => playOrder('((A999)999)999')).toThrow('more than');
  });
});
