import { describe, expect, it } from 'vitest';
import { transposed } from '../../material/transpose';
import { gridOf } from '../../rhythm/grid-of';
import type { Passage } from '../../schema/passage';
import { readAbc } from './abc-read';
import { writeAbc } from './abc-write';
import { chordName, chordSymbol, isChordName } from './chord-symbols';
import { readMusicXml } from './musicxml-read';
import { writeMusicXml } from './musicxml-write';
import type { Score } from './score';
import { passageOfScore } from './score-passage';
import { readText } from './text-read';
import { writeText } from './text-write';

const TEXT = `title: Harbour song
meter: 3/4
key: Bb
clef: alto

"Bbm7" "_Low-" Bb3@trill/4 "_er" C4@mordent/8 D@turn r/4 |
"F#dim/A" "_the" F4@arpeggio+A4/2 clef=treble "_tide," Bb4@inverted-turn@fermata/4 |
"N.C." C5/2.~ | C5/4 clef=soprano "E7(b9)" "_l’eau" E4@inverted-mordent/2 |
clef=alto "_ho" D4/2. |
`;
const passage = passageOfScore(readText(TEXT), 'song').passage;

/** What is printed at each note, in order of time. */
const printedIn = ({ notes }: Pick<Passage, 'notes'>) =>
  notes.filter(({ length }) => length !== '0').map(({ at, printed }) => [at, printed ?? {}]);

const FORMATS: Record<string, { write: (of: Passage) => string; read: (text: string) => Score }> = {
  text: { write: writeText, read: readText },
  MusicXML: { write: writeMusicXml, read: readMusicXml },
  ABC: { write: writeAbc, read: readAbc },
};

describe('what the page prints at its notes', () => {
  it('is read from the text: chord symbols, syllables, ornaments, fermatas, arpeggios and clefs', () => {
    expect(passage.staves).toEqual([{ clef: 'alto' }]);
    expect(printedIn(passage)).toEqual([
      ['0', { chord: 'Bbm7', syllable: 'Low-', ornament: 'trill' }],
      ['1', { syllable: 'er', ornament: 'mordent' }],
      ['3/2', { ornament: 'turn' }],
      ['3', { chord: 'F#dim/A', syllable: 'the', arpeggio: true }],
      ['3', {}],
      ['5', { syllable: 'tide,', ornament: 'inverted-turn', fermata: true, clef: 'treble' }],
      ['6', { chord: 'N.C.', clef: 'treble' }],
      ['9', { clef: 'treble' }],
      ['10', { chord: 'E7(b9)', syllable: 'l’eau', ornament: 'inverted-mordent', clef: 'soprano' }],
      ['12', { syllable: 'ho' }],
    ]);
  });

  it.each(Object.entries(FORMATS))('comes back from %s as it was written', (_, { write, read }) => {
    const again = passageOfScore(read(write(passage)), 'song');
    expect(again.simplified).toEqual([]);
    expect(again.passage.staves).toEqual(passage.staves);
    expect(printedIn(again.passage)).toEqual(printedIn(passage));
    expect(again.passage.notes.map(({ pitch, length }) => [pitch, length])).toEqual(
      passage.notes.map(({ pitch, length }) => [pitch, length]),
    );
  });

  it('stands in the grid with its note', () => {
    expect(gridOf(passage).events[0]?.notes[0]?.printed).toEqual({ chord: 'Bbm7', syllable: 'Low-', ornament: 'trill' });
  });

  it('moves its chord symbols with the key, and leaves words alone', () => {
    const chords = (of: Passage | null) => of?.notes.flatMap(({ printed }) => printed?.chord ?? []);
    expect(chords(transposed(passage, 2))).toEqual(['Cm7', 'G#dim/B', 'N.C.', 'F#7(b9)']);
    expect(chords(transposed(passage, -3))).toEqual(['Gm7', 'D#dim/F#', 'N.C.', 'C#7(b9)']);
  });

  it('points at a clef that is none, and at quotes without end', () => {
    expect(() => readText('C4/4 clef=violin D')).toThrow(/Line 1, “clef=violin”: a clef is one of treble, bass, alto/);
    expect(() => readText('C4/4 "Am D')).toThrow(/Line 1/);
  });
});

describe('a chord symbol', () => {
  it.each(['C', 'Bbm7', 'F#dim/A', 'Ebmaj7', 'G7sus4', 'A7(b9)', 'Dm7b5', 'C/Bb', 'E+'])(
    '%s is taken apart and put together',
    (name) => {
      const symbol = chordSymbol(name);
      expect(symbol && chordName(symbol)).toBe(name);
      expect(isChordName(name)).toBe(true);
    },
  );

  // Words that stand over tunes in quotes, as chord symbols do.
  it.each(['Fine', 'Coda', 'D.C. al Fine', 'Bridge', 'Chorus', 'A tempo', 'Cello', ''])('%s is none', (words) => {
    expect(isChordName(words)).toBe(false);
  });
});

const measure = (inside: string) => `<?xml version="1.0"?><score-partwise version="4.0">
<part-list><score-part id="P1"><part-name>Voice</part-name></score-part></part-list>
<part id="P1"><measure number="1"><attributes><divisions>2</divisions><time><beats>4</beats><beat-type>4</beat-type></time>
<clef><sign>G</sign><line>2</line></clef></attributes>${inside}</measure></part></score-partwise>`;
const note = (step: string, duration: number, more = '') =>
  `<note><pitch><step>${step}</step><octave>4</octave></pitch><duration>${duration}</duration><voice>1</voice>${more}</note>`;
const readBar = (inside: string) => passageOfScore(readMusicXml(measure(inside)), 'one');

describe('a MusicXML of another program', () => {
  it('names chords by their kind, by what is written out, and by degrees', () => {
    const harmony = (inside: string) => `<harmony>${inside}</harmony>`;
    const root = (step: string, alter = 0) => `<root><root-step>${step}</root-step><root-alter>${alter}</root-alter></root>`;
    const { passage: read, simplified } = readBar(
      [
        harmony(`${root('B', -1)}<kind>minor-seventh</kind>`),
        note('C', 2),
        harmony(`${root('F', 1)}<kind text="ø7">half-diminished</kind><bass><bass-step>A</bass-step></bass>`),
        note('D', 2),
        harmony(
          `${root('G')}<kind>dominant</kind><degree><degree-value>9</degree-value><degree-alter>-1</degree-alter><degree-type>add</degree-type></degree>`,
        ),
        note('E', 2),
        // Two crotchets before the end of the bar by its offset; then one at no note.
        harmony(`${root('C')}<kind>major</kind><offset>0</offset>`),
        harmony(`${root('A')}<kind>minor</kind><offset>1</offset>`),
        harmony('<function>V</function><kind>dominant</kind>'),
        note('F', 2),
      ].join(''),
    );
    expect(read.notes.map(({ printed }) => printed?.chord)).toEqual(['Bbm7', 'F#ø7/A', 'G7b9', 'C']);
    expect(simplified).toEqual([
      'Chord symbols without a letter name are left out.',
      'Chord symbols that stand at no note are left out.',
    ]);
  });

  it('has syllables by what they are in their word, of two verses the first', () => {
    const lyric = (syllabic: string, text: string, number = 1) =>
      `<lyric number="${number}"><syllabic>${syllabic}</syllabic><text>${text}</text></lyric>`;
    const { passage: read, simplified } = readBar(
      [
        note('C', 2, lyric('begin', 'Wa') + lyric('begin', 'Mor', 2)),
        note('D', 2, lyric('end', 'ter')),
        note('E', 2, '<lyric><syllabic>single</syllabic><text>so</text><elision> </elision><text>old</text><extend/></lyric>'),
        note('F', 2),
      ].join(''),
    );
    expect(read.notes.map(({ printed }) => printed?.syllable)).toEqual(['Wa-', 'ter', 'so old'.replace(' ', ''), undefined]);
    expect(simplified).toEqual(['Of several verses the first one is shown.']);
  });

  it('has its clef by place, also in a voice that is written after it, and in the bar that follows', () => {
    const bass = '<attributes><clef><sign>F</sign><line>4</line></clef></attributes>';
    const second = (step: string) => note(step, 4).replace('<voice>1', '<voice>2');
    const text = measure(
      `${note('C', 4)}${bass}${note('D', 4)}<backup><duration>8</duration></backup>${second('E')}${second('F')}`,
    ).replace('</measure></part>', `</measure><measure number="2">${note('G', 8)}</measure></part>`);
    const { passage: read, simplified } = passageOfScore(readMusicXml(text), 'two');
    const clefs = read.notes.map(({ pitch, printed }) => `${pitch?.step} ${printed?.clef ?? 'treble'}`);
    expect(new Set(clefs)).toEqual(new Set(['C treble', 'E treble', 'D bass', 'F bass', 'G bass']));
    expect(simplified).toEqual([]);
  });
});

describe('an ABC of another program', () => {
  it('has its syllables at its notes, words with a side are none, and C clefs stand on their line', () => {
    const tune = `X:1
T:Rope
M:4/4
L:1/4
K:C clef=alto2
"Am"C "^softly"D "Fine"E !pralltriller!F | z G2 [K:clef=tenor] A |]
w:Row-ing_ home * now
`;
    const { passage: read } = passageOfScore(readAbc(tune), 'rope');
    expect(read.staves).toEqual([{ clef: 'mezzo-soprano' }]);
    expect(read.notes.map(({ printed }) => printed?.syllable)).toEqual(['Row-', 'ing', undefined, 'home', undefined, 'now']);
    expect(read.notes.map(({ printed }) => printed?.chord)).toEqual(['Am', ...Array.from({ length: 5 })]);
    expect(read.notes.map(({ printed }) => printed?.ornament)[3]).toBe('inverted-mordent');
    expect(read.notes.map(({ printed }) => printed?.clef)).toEqual([...Array.from({ length: 5 }), 'tenor']);
  });

  it('has the words of each line of a voice under it, also where another voice stands between, or a line has none', () => {
    const tune = `X:1
M:2/4
L:1/4
K:G
V:1
"G"[GB] {c}A |
w:Far
V:2
z G, |
V:1
B c | d z |
V:1
^f "_x"g |]
w:a-way
w:se-cond
`;
    const { passage: read } = passageOfScore(readAbc(tune), 'far');
    const sung = read.notes.flatMap(({ at, printed }) => (printed?.syllable ? [`${at} ${printed.syllable}`] : []));
    expect(sung).toEqual(['0 Far', '6 a-', '7 way']);
  });
});
