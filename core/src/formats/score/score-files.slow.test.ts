import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import fc from 'fast-check';
import { strToU8, zipSync } from 'fflate';
import { describe, expect, it } from 'vitest';
import { midiOf } from '../../rhythm/pitch';
import { beats, writeBeats } from '../../schema/beats';
import { OrnamentSchema } from '../../schema/notation';
import { type Passage, type PassageNote, PassageSchema } from '../../schema/passage';
import { formatOf, PASSAGE_FORMATS, readPassageFile } from './passage-files';
import { passageFigures } from './passage-json';
import { fifthsOf, keyAlters, spelledPitch } from './pitch-spelling';
import { playedSmf } from './played-smf';
import { quantised } from './quantise';
import { unfoldedOrder } from './unfold';

const fixture = (name: string) => new Uint8Array(readFileSync(join(import.meta.dirname, 'fixtures', name)));
const read = (name: string, bytes = fixture(name)) => readPassageFile(name, bytes, 'fixture');

/** Everything of the notes that a round trip must keep. */
const played = (passage: Passage) =>
  passage.notes
    .filter(({ grace }) => !grace)
    .map(({ at, length, pitch, tie = false, staff }) => `${at} ${length} ${pitch ? midiOf(pitch) : 'x'} ${tie} ${staff}`)
    .sort();
const spelled = (passage: Passage) => passage.notes.map(({ at, pitch }) => `${at} ${JSON.stringify(pitch)}`).sort();

/** Invented music: two voices, even and uneven values, tuplets, chords, ties, rests, a pickup. Every note lies in its bar. */
const anyPassage = fc
  .record({
    count: fc.constantFrom(2, 3, 4, 5),
    fifths: fc.integer({ min: -4, max: 4 }),
    pickup: fc.constantFrom('0', '1/2', '1'),
    voices: fc.integer({ min: 1, max: 2 }),
    bars: fc.array(
      fc.array(
        fc.record({
          cut: fc.constantFrom(
            ['1'],
            ['1/2', '1/2'],
            ['1/3', '1/3', '1/3'],
            ['1/4', '1/4', '1/2'],
            ['3/4', '1/4'],
            ['1/5', '1/5', '1/5', '1/5', '1/5'],
          ),
          kinds: fc.array(fc.constantFrom('note', 'note', 'note', 'chord', 'rest', 'tie'), { minLength: 5, maxLength: 5 }),
          pitches: fc.array(fc.integer({ min: 50, max: 80 }), { minLength: 5, maxLength: 5 }),
        }),
        { minLength: 5, maxLength: 5 },
      ),
      { minLength: 1, maxLength: 4 },
    ),
  })
  .map(({ count, fifths, pickup, voices, bars }): Passage | null => {
    const notes: PassageNote[] = [];
    for (let voice = 1; voice <= voices; voice += 1) {
      let tied: number | null = null;
      const line: PassageNote[] = [];
      if (voice === 1 && pickup !== '0')
        line.push({ id: '', at: `-${pickup}`, length: pickup, pitch: spelledPitch(67, fifths), staff: 1, voice });
      bars.forEach((bar, b) => {
        for (let beat = 0; beat < count; beat += 1) {
          const { cut, kinds, pitches } = bar[beat] as (typeof bar)[number];
          let at = beats(b * count + beat);
          cut.forEach((length, k) => {
            const kind = kinds[k];
            const midi = tied ?? (pitches[k] as number) - 14 * (voice - 1);
            if (tied !== null || kind !== 'rest') {
              const note = { id: '', at: writeBeats(at), length, pitch: spelledPitch(midi, fifths), staff: 1 as const, voice };
              const isTied = kind === 'tie';
              line.push(isTied ? { ...note, tie: true } : note);
              if (kind === 'chord' && tied === null) line.push({ ...note, pitch: spelledPitch(midi + 4, fifths) });
              tied = isTied ? midi : null;
            }
            at = at.add(beats(length));
          });
        }
      });
      // The last note leads nowhere.
      const last = line.at(-1);
      if (last) delete last.tie;
      notes.push(...line);
    }
    if (notes.length === 0) return null;
    const passage = {
      id: 'any',
      title: 'Any & all <of it>',
      about: '',
      beatUnit: '1/4',
      pickup,
      meters: [{ at: '0', count, unit: 4 }],
      keys: [{ at: '0', fifths }],
      staves: [{ clef: 'treble' }],
      bars: bars.length,
      goalBpm: 96,
      notes: notes.sort((a, b) => beats(a.at).compare(beats(b.at))).map((note, k) => ({ ...note, id: `n${k + 1}` })),
    };
    const parsed = PassageSchema.safeParse(passage);
    return parsed.success ? parsed.data : null;
  })
  .filter((passage) => passage !== null);

/** A passage in 4/4 of notes in one voice. */
const anyOf = (notes: readonly { at: string; length: string; pitch: number; tie?: boolean }[]): Passage =>
  PassageSchema.parse({
    id: 'any',
    title: 'Any',
    about: '',
    beatUnit: '1/4',
    pickup: '0',
    meters: [{ at: '0', count: 4, unit: 4 }],
    keys: [{ at: '0', fifths: 0 }],
    staves: [{ clef: 'treble' }],
    bars: 2,
    goalBpm: 96,
    notes: notes.map(({ pitch, ...note }, k) => ({
      ...note,
      id: `n${k + 1}`,
      pitch: spelledPitch(pitch, 0),
      staff: 1,
      voice: 1,
    })),
  });

describe('notation goes out and comes back', () => {
  it.each(PASSAGE_FORMATS.filter(({ id }) => id !== 'midi'))(
    'as $name: every onset, length, pitch and tie stays',
    async (format) => {
      await fc.assert(
        fc.asyncProperty(anyPassage, async (passage) => {
          const back = await readPassageFile(`x${format.endings[0]}`, format.write(passage), 'any');
          expect(played(back.passage)).toEqual(played(passage));
          expect(spelled(back.passage)).toEqual(spelled(passage));
          expect(back.passage).toMatchObject({ pickup: passage.pickup, bars: passage.bars, goalBpm: 96, beatUnit: '1/4' });
          expect(back.passage.keys).toEqual(passage.keys);
        }),
        { numRuns: 40 },
      );
    },
  );

  it.each(PASSAGE_FORMATS.filter(({ id }) => id !== 'midi'))(
    'as $name: a chord of which one note is held on, one of which one note is tied, a rest from one division into another',
    async (format) => {
      const passage = anyOf([
        { at: '0', length: '1', pitch: 60 },
        { at: '0', length: '2', pitch: 64 },
        { at: '1', length: '1', pitch: 67 },
        { at: '2', length: '1', pitch: 60, tie: true },
        { at: '2', length: '1', pitch: 64 },
        { at: '3', length: '1/3', pitch: 60 },
        // From the second third of a beat to its second fifth of the next.
        { at: '22/5', length: '3/5', pitch: 62 },
        { at: '5', length: '3', pitch: 62 },
      ]);
      const back = await readPassageFile(`x${format.endings[0]}`, format.write(passage), 'any');
      expect(played(back.passage)).toEqual(played(passage));
    },
  );

  it('as MIDI: every sounding onset, length and pitch stays, also the second time round', async () => {
    const midi = formatOf('x.mid');
    await fc.assert(
      fc.asyncProperty(anyPassage, async (passage) => {
        const once = await readPassageFile('x.mid', midi?.write(passage) as Uint8Array, 'any');
        const twice = await readPassageFile('x.mid', midi?.write(once.passage) as Uint8Array, 'any');
        expect(played(twice.passage)).toEqual(played(once.passage));
        // What was tied sounds as one note; a pickup is a bar of its own in a file without pickups.
        const sounding = (one: Passage) => {
          const figures = passageFigures(one);
          const zero = beats(one.pickup);
          const tiedTo = new Set<string>();
          const notes = figures.notes.flatMap((note) => note.pitches.map((pitch) => ({ ...note, pitch })));
          return notes
            .filter(({ at, pitch, voice }) => {
              const isTiedTo = tiedTo.has(`${at} ${pitch} ${voice}`);
              const own = notes.find((other) => other.at === at && other.pitch === pitch && other.voice === voice);
              if (own?.tie) tiedTo.add(`${writeBeats(beats(at).add(beats(own.length)))} ${pitch} ${voice}`);
              return !isTiedTo;
            })
            .map(({ at, pitch }) => `${writeBeats(beats(at).add(zero))} ${pitch}`)
            .sort();
        };
        expect([...new Set(sounding(once.passage))]).toEqual([...new Set(sounding(passage))]);
      }),
      { numRuns: 40 },
    );
  });
});

const CLEF_CHOICES = ['treble', 'bass', 'alto', 'tenor', 'soprano', 'mezzo-soprano', 'baritone'] as const;

/** The same with what the page prints at its notes: of every chord at its lowest, a clef to every bar. */
const printedPassage = (words: fc.Arbitrary<string>) =>
  fc
    .tuple(
      anyPassage,
      fc.array(
        fc.record(
          {
            ornament: fc.constantFrom(...OrnamentSchema.options),
            fermata: fc.constant(true),
            arpeggio: fc.constant(true),
            chord: fc.constantFrom('C', 'Bbm7', 'F#dim/A', 'N.C.', 'G7sus4', 'A7(b9)', 'Ebmaj7/G'),
            syllable: words,
          },
          { requiredKeys: [] },
        ),
        { minLength: 1, maxLength: 12 },
      ),
      fc.array(fc.constantFrom(...CLEF_CHOICES), { minLength: 1, maxLength: 4 }),
    )
    .map(([passage, printed, clefs]): Passage => {
      const [{ count } = { count: 4 }] = passage.meters;
      const seen = new Set<string>();
      const begins = clefs[0] ?? 'treble';
      return {
        ...passage,
        staves: [{ clef: begins }],
        notes: passage.notes.map((note, k) => {
          const place = `${note.at}/${note.voice}`;
          const own = seen.has(place) ? {} : { ...printed[k % printed.length] };
          seen.add(place);
          const bar = Math.max(0, Math.floor(beats(note.at).valueOf() / count));
          const clef = clefs[bar % clefs.length] ?? begins;
          const all = clef === begins ? own : { ...own, clef };
          return Object.keys(all).length > 0 ? { ...note, printed: all } : note;
        }),
      };
    });

/** What stands at each place, whichever of its notes carries it. */
const printedAt = ({ notes }: Passage) =>
  [
    ...new Set(
      notes.flatMap(({ at, printed = {} }) =>
        Object.entries(printed)
          // One chord symbol stands over a place, on whatever voice.
          .filter(([kind]) => kind !== 'chord')
          .map(([kind, value]) => `${at} ${kind} ${value}`),
      ),
    ),
  ].sort();
const chordPlaces = ({ notes }: Passage) =>
  [...new Set(notes.flatMap(({ at, printed }) => (printed?.chord ? [at] : [])))].sort();

describe('what is printed at the notes', () => {
  const formats = PASSAGE_FORMATS.filter(({ id }) => id !== 'midi');

  it.each(formats)('comes back from $name with every note', async (format) => {
    await fc.assert(
      fc.asyncProperty(
        printedPassage(fc.constantFrom('O', 'la', 'so-', 'l’eau', 'tide,', 'Über-', 'so old')),
        async (passage) => {
          const back = await readPassageFile(`x${format.endings[0]}`, format.write(passage), 'any');
          expect(played(back.passage)).toEqual(played(passage));
          expect(printedAt(back.passage)).toEqual(printedAt(passage));
          expect(chordPlaces(back.passage)).toEqual(chordPlaces(passage));
          expect(back.passage.staves).toEqual(passage.staves);
        },
      ),
      { numRuns: 40 },
    );
  });

  it.each(formats)('loses no note in $name, whatever letters it is made of', async (format) => {
    const hostile = fc.oneof(
      fc.string({ minLength: 1, maxLength: 39, unit: 'grapheme' }),
      fc.constantFrom('"', '|', '%', '\\', 'w:', '*', '_', '-', '--', ']', 'X:1', '&lt;', '<b>', ']]>', '//', "'", ' ', '\n|'),
    );
    await fc.assert(
      fc.asyncProperty(printedPassage(hostile), async (passage) => {
        const whole = {
          ...passage,
          notes: passage.notes.map((note) =>
            note.printed?.syllable
              ? { ...note, printed: { ...note.printed, chord: note.printed.syllable.slice(0, 24) } }
              : note,
          ),
        };
        const back = await readPassageFile(`x${format.endings[0]}`, format.write(whole), 'any');
        expect(played(back.passage)).toEqual(played(passage));
      }),
      { numRuns: 60 },
    );
  });
});

describe('files of other writers', () => {
  const hand = () => read('tide-table-hand.musicxml');

  it('a hand-written file by the MusicXML standard is read as it says', async () => {
    const { passage, simplified } = await hand();
    expect(passage).toMatchObject({ title: 'Tide table & Moon', pickup: '1', bars: 4, goalBpm: 84, pageBars: [1, 2, 1, 3] });
    expect(passage.meters).toEqual([
      { at: '0', count: 3, unit: 4 },
      { at: '9', count: 2, unit: 4 },
    ]);
    expect(passage.staves).toEqual([{ clef: 'treble' }, { clef: 'bass' }]);
    expect(simplified).toEqual(['Repeats are written out; bars keep the numbers of the page.']);
    const upper = passage.notes.filter(({ staff, voice, grace }) => staff === 1 && voice === 1 && !grace);
    expect(upper.map(({ at, length }) => `${at}:${length}`).slice(0, 7)).toEqual([
      '-1:1',
      '0:1/3',
      '1/3:1/3',
      '2/3:1/3',
      '1:3/2',
      '5/2:1/2',
      '3:2',
    ]);
    expect(upper[4]).toMatchObject({ tie: true, accent: true, pitch: { step: 'B', alter: -1, octave: 4 } });
    expect(upper[1]?.slurTo).toBe(upper[3]?.id);
    expect(passage.notes.filter(({ grace }) => grace)).toHaveLength(2);
    expect(passage.variants[0]?.marks[upper[2]?.id ?? '']).toEqual({ finger: '2' });
  });

  it.each(['tide-table-musescore.musicxml', 'tide-table-musescore.mxl'])(
    '%s, as a score editor wrote it, says the same',
    async (name) => {
      const { passage } = await read(name);
      expect(played(passage)).toEqual(played((await hand()).passage));
      expect(passage.pageBars).toEqual([1, 2, 1, 3]);
    },
  );

  it('its MIDI file sounds at the same places', async () => {
    const { passage } = await read('tide-table-musescore.mid');
    const onsets = new Set(passage.notes.map(({ at, pitch }) => `${at} ${pitch && midiOf(pitch)}`));
    for (const [at, midi] of [
      ['-1', 72],
      ['0', 77],
      ['1/3', 76],
      ['2/3', 74],
      ['1', 70],
      ['3', 67],
      ['5', 72],
      ['9', 66],
      ['10', 50],
    ])
      expect(onsets.has(`${at} ${midi}`)).toBe(true);
  });

  it('an engraving program’s MusicXML in 6/8 counts dotted quarters', async () => {
    const { passage } = await read('slow-bell-ly.musicxml');
    expect(passage).toMatchObject({ beatUnit: '3/8', bars: 4 });
    expect(passage.notes.map(({ at, length }) => `${at}:${length}`)).toEqual(
      '0:1/3 1/3:1/3 2/3:1/3 1:2/3 5/3:1/3 2:1/6 13/6:1/6 7/3:1/6 5/2:1/6 8/3:1/6 17/6:1/6 3:1 4:1 5:1/9 46/9:1/9 47/9:1/9 16/3:1/3 17/3:1/3 6:2 6:2 6:2'.split(
        ' ',
      ),
    );
  });

  it('an ABC tune, its MIDI file and the tune made of that again agree', async () => {
    const tune = (await read('gull-step-hand.abc')).passage;
    expect(tune).toMatchObject({ pickup: '1/3', bars: 6, beatUnit: '3/8', goalBpm: 80 });
    const pitches = (passage: Passage) => passage.notes.filter(({ tie }) => !tie).map(({ pitch }) => pitch && midiOf(pitch));
    const midi = (await read('gull-step-abcmidi.mid')).passage;
    const again = (await read('gull-step-midi2abc.abc')).passage;
    expect(pitches(midi)).toEqual(pitches(again));
    expect(new Set(pitches(midi))).toEqual(new Set(pitches(tune)));
    // The MIDI file knows no upbeat: all lies a third of a beat later.
    const shifted = midi.notes.slice(0, 10).map(({ at }) => writeBeats(beats(at).sub(beats('1/3'))));
    expect(shifted).toEqual(tune.notes.slice(0, 10).map(({ at }) => at));
  });

  it('a timewise file and one in UTF-16 are read like the others', async () => {
    const text = new TextDecoder().decode(fixture('slow-bell-ly.musicxml'));
    const utf16 = new Uint8Array([
      0xff,
      0xfe,
      ...new Uint8Array(Uint16Array.from([...text].map((letter) => letter.charCodeAt(0))).buffer),
    ]);
    expect(played((await read('x.musicxml', utf16)).passage)).toEqual(played((await read('slow-bell-ly.musicxml')).passage));
    const timewise = text
      .replaceAll('score-partwise', 'score-timewise')
      .replace('<part id="P1">', '')
      .replace(/<\/part>(?=\s*<\/score)/, '')
      .replaceAll(/<measure([^>]*)>/g, '<measure$1><part id="P1">')
      .replaceAll('</measure>', '</part></measure>');
    expect(played((await read('x.musicxml', strToU8(timewise))).passage)).toEqual(
      played((await read('slow-bell-ly.musicxml')).passage),
    );
  });
});

describe('files that are broken, huge or hostile', () => {
  const bomb = () => {
    const zeros = new Uint8Array(60_000_000);
    return zipSync({ 'score.xml': zeros });
  };
  it.each([
    ['an empty file', 'x.musicxml', () => new Uint8Array(), 'empty'],
    [
      'a file of entities that expand',
      'x.musicxml',
      () => strToU8('<!DOCTYPE a [<!ENTITY b "cc"><!ENTITY d "&b;&b;">]><score-partwise>&d;</score-partwise>'),
      'entities',
    ],
    ['other XML', 'x.xml', () => strToU8('<html><body/></html>'), 'not MusicXML'],
    ['XML that breaks off', 'x.musicxml', () => fixture('tide-table-hand.musicxml').subarray(0, 3000), 'well-formed'],
    ['an archive that unpacks without end', 'x.mxl', bomb, 'larger'],
    ['an archive that is damaged', 'x.mxl', () => fixture('tide-table-musescore.mxl').subarray(0, 1500), 'damaged'],
    ['an archive of something else', 'x.mxl', () => zipSync({ 'a.txt': strToU8('hello') }), 'damaged'],
    ['MIDI that breaks off', 'x.mid', () => fixture('tide-table-musescore.mid').subarray(0, 30), 'MIDI'],
    ['50 MB of anything', 'x.musicxml', () => new Uint8Array(50_000_000).fill(60), 'larger'],
    ['an unknown kind', 'x.doc', () => strToU8('what is this'), 'not known'],
    ['text with a note that is none', 'x.txt', () => strToU8('title: X\nC4/4 H5/4 |'), 'Line 2, “H5/4”'],
    [
      'elements within elements without end',
      'x.musicxml',
      () => strToU8(`<score-partwise>${'<a>'.repeat(200_000)}`),
      'well-formed',
    ],
    [
      'notes of no length',
      'x.musicxml',
      () =>
        strToU8(
          '<score-partwise><part id="P"><measure number="1"><note><pitch><step>C</step><octave>4</octave></pitch><duration>NaN</duration></note></measure></part></score-partwise>',
        ),
      'length',
    ],
    ['repeats without end', 'x.txt', () => strToU8(`title: X\n${'|: C4/4 D E F :|64 '.repeat(60)}`), 'bars'],
  ])('%s is refused with a sentence, at once', async (_what, name, bytes, sentence) => {
    await expect(read(name, bytes())).rejects.toThrow(sentence);
  });

  it('anything at all is read or refused with a sentence', async () => {
    const sources = ['tide-table-hand.musicxml', 'tide-table-musescore.mid', 'gull-step-hand.abc'].map(
      (name) => [name, fixture(name)] as const,
    );
    await fc.assert(
      fc.asyncProperty(
        fc.constantFrom(...sources),
        fc.array(fc.tuple(fc.nat(5000), fc.nat(255)), { minLength: 1, maxLength: 20 }),
        async ([name, bytes], changes) => {
          const spoiled = Uint8Array.from(bytes);
          for (const [at, value] of changes) spoiled[at % spoiled.length] = value;
          const outcome = await read(name, spoiled).catch((error: Error) => error.message);
          if (typeof outcome === 'string') expect(outcome).toMatch(/[.!]$/);
          else expect(PassageSchema.safeParse(outcome.passage).error).toBeUndefined();
        },
      ),
      { numRuns: 80 },
    );
  });
});

describe('repeats', () => {
  it('are written out with their endings', () => {
    expect(unfoldedOrder([{ startsRepeat: true }, { endings: [1], endsRepeat: 2 }, { endings: [2] }, {}])).toEqual([
      0, 1, 0, 2, 3,
    ]);
    expect(unfoldedOrder([{}, { endsRepeat: 3 }, {}])).toEqual([0, 1, 0, 1, 0, 1, 2]);
    expect(unfoldedOrder([{ endsRepeat: 2 }, { startsRepeat: true }, { endsRepeat: 2 }])).toEqual([0, 0, 1, 2, 1, 2]);
    expect(unfoldedOrder([{ startsRepeat: true }, { endings: [1, 2], endsRepeat: 3 }, { endings: [3] }])).toEqual([
      0, 1, 0, 1, 0, 2,
    ]);
  });

  it('follow da capo to the fine, and dal segno to the coda', () => {
    expect(unfoldedOrder([{}, { fine: true }, {}, { jump: 'da capo' }])).toEqual([0, 1, 2, 3, 0, 1]);
    expect(unfoldedOrder([{}, { segno: '' }, { toCoda: true }, { jump: 'dal segno' }, { coda: true }])).toEqual([
      0, 1, 2, 3, 1, 2, 4,
    ]);
  });
});

describe('spelling', () => {
  it('gives every major key its own seven notes', () => {
    for (let fifths = -7; fifths <= 7; fifths += 1)
      for (const [step, alter] of Object.entries(keyAlters(fifths))) {
        const midi = midiOf({ step: step as 'C', alter, octave: 4 });
        expect(spelledPitch(midi, fifths)).toMatchObject({ step, alter });
      }
  });

  it('lies on the line of fifths', () => {
    expect(fifthsOf({ step: 'F', alter: 1 })).toBe(6);
    expect(fifthsOf({ step: 'B', alter: -1 })).toBe(-2);
    expect(spelledPitch(61, 0)).toEqual({ step: 'C', alter: 1, octave: 4 });
    expect(spelledPitch(70, -2)).toEqual({ step: 'B', alter: -1, octave: 4 });
    expect(spelledPitch(60, 7)).toEqual({ step: 'B', alter: 1, octave: 3 });
  });
});

describe('played notes', () => {
  it('are set to the places that were meant, with a player’s unsteadiness in them', () => {
    const meant = ['0', '1/4', '1/2', '3/4', '1', '4/3', '5/3', '2', '5/2', '3', '19/6', '10/3', '7/2', '11/3', '23/6', '4'];
    const unsteadiness = (k: number) => 0.018 * Math.sin(12.9898 * (k + 1) * 3);
    const placed = quantised(meant.map((at, k) => beats(at).valueOf() + unsteadiness(k)));
    expect(placed.map(writeBeats)).toEqual(meant);
  });
});

describe('playing in', () => {
  it('comes back as what was meant, unsteadiness, overlap and a short last note and all', async () => {
    const bpm = 90;
    const meant = [0, 0.5, 1, 1.25, 1.5, 1.75, 2, 3, 4];
    const notes = meant.map((at, k) => {
      const timeS = (at * 60) / bpm + 0.012 * Math.sin(7 * k);
      const next = meant[k + 1] ?? at + 1;
      return { timeS, levelDb: -20, pitch: 60 + k, offS: timeS + ((next - at) * 60 * (k % 2 ? 0.85 : 1.04)) / bpm };
    });
    const { passage, simplified } = await readPassageFile(
      'in.mid',
      playedSmf({ notes, bpm, meter: { count: 4, unit: 4 } }),
      'in',
    );
    expect(passage.notes.map(({ at }) => at)).toEqual(['0', '1/2', '1', '5/4', '3/2', '7/4', '2', '3', '4']);
    expect(passage.notes.slice(0, 8).map(({ length }) => length)).toEqual(['1/2', '1/2', '1/4', '1/4', '1/4', '1/4', '1', '1']);
    expect(passage).toMatchObject({ goalBpm: 90, bars: 2 });
    expect(simplified[0]).toContain('played in');
  });
});
