import { beats, writeBeats } from '../schema/beats';
import type { Marks } from '../schema/notation';
import type { Passage, PassageNote } from '../schema/passage';
import { FIRST_VARIANT } from '../schema/practice-config';
import { pitch } from './pitch';

/** A note in the making: the passage numbers it. */
type Draft = Omit<PassageNote, 'id'> & { marks?: Marks };

/** Notes of equal length from `at` on, one pitch each: `C4 D4 E4`. */
const run = (at: string, each: string, pitches: string): Draft[] =>
  pitches.split(' ').map((name, k) => ({
    at: writeBeats(beats(at).add(beats(each).mul(k))),
    length: each,
    pitch: pitch(name),
    staff: 1,
    voice: 1,
  }));

const fingered = (notes: Draft[], fingers: string): Draft[] =>
  notes.map((note, k) => ({ ...note, marks: { finger: fingers[k] as string } }));

const sticked = (notes: Draft[]): Draft[] =>
  notes.map((note, k) => ({ ...note, marks: { hand: k % 2 === 0 ? ('right' as const) : ('left' as const) } }));

/** The same notes in both hands, an octave apart, each hand on its staff. */
const together = (notes: Draft[]): Draft[] =>
  notes.flatMap((note) => [
    { ...note, marks: { hand: 'right' as const } },
    {
      ...note,
      staff: 2 as const,
      pitch: note.pitch && { ...note.pitch, octave: note.pitch.octave - 1 },
      marks: { hand: 'left' as const },
    },
  ]);

/** A passage of quarters from drafts: notes get their numbers, marks become its first variant. */
export const passageOf = (
  parts: Pick<Passage, 'id' | 'title' | 'about' | 'bars' | 'goalBpm'> &
    Partial<Pick<Passage, 'pickup' | 'staves'>> & {
      variant: string;
      notes: Draft[];
    },
): Passage => {
  const { variant, notes, ...rest } = parts;
  const numbered = notes.map(({ marks, ...note }, k) => ({ note: { ...note, id: `n${k + 1}` }, marks }));
  const marked = numbered.flatMap(({ note, marks }) => (marks ? [[note.id, marks] as const] : []));
  return {
    revision: 1,
    beatUnit: '1/4',
    pickup: '0',
    meters: [{ at: '0', count: 4, unit: 4 }],
    keys: [{ at: '0', fifths: 0 }],
    staves: [{ clef: 'treble' }],
    firstBarNumber: 1,
    sections: [],
    ...rest,
    notes: numbered.map(({ note }) => note),
    variants: marked.length ? [{ id: FIRST_VARIANT, name: variant, marks: Object.fromEntries(marked) }] : [],
  };
};

/**
 * The passages that ship with the app: small, common figures written for it. Each ends on a note of at least one beat, so
 * that the decision is there before the rest bar begins.
 */
export const BUILT_IN_PASSAGES: readonly Passage[] = [
  passageOf({
    id: 'five-steps',
    title: 'Five steps and back',
    about: 'Up and down five neighbouring notes, four to the beat, ending on a long note. Watch the turn at the top.',
    bars: 2,
    goalBpm: 120,
    variant: 'five fingers',
    notes: fingered(
      [...run('0', '1/4', 'C4 D4 E4 F4 G4 F4 E4 D4 C4 D4 E4 F4 G4 F4 E4 D4'), ...run('4', '2', 'C4')],
      '12345432123454321',
    ),
  }),
  passageOf({
    id: 'rolling-threes',
    title: 'Rolling threes',
    about:
      'Three notes to the beat, climbing by a step each beat. Sticks alternate, so the leading hand changes on every beat.',
    bars: 2,
    goalBpm: 132,
    variant: 'alternating, right first',
    notes: sticked([
      ...run('0', '1/3', 'D4 F#4 A4 E4 G4 B4 F#4 A4 C#5 E4 G4 B4'),
      ...run('4', '1/3', 'D4 F#4 A4 E4 G4 B4'),
      ...run('6', '1', 'D4'),
    ]),
  }),
  passageOf({
    id: 'long-short-walk',
    title: 'Long-short walk',
    about: 'Long and short notes, three to one, down a scale. The short note likes to come early and turn into a triplet.',
    bars: 2,
    goalBpm: 96,
    variant: '',
    notes: [
      ...['C5', 'B4', 'A4', 'G4', 'F4', 'E4'].flatMap((name, k, scale) => [
        ...run(String(k), '3/4', name),
        ...run(writeBeats(beats(k).add('3/4')), '1/4', scale[k + 1] ?? 'D4'),
      ]),
      ...run('6', '1', 'C4'),
    ],
  }),
  passageOf({
    id: 'hands-together',
    title: 'Hands together',
    about:
      'Both hands in octaves, two to the beat. With a MIDI instrument the hands are told apart: which one leads, and by how much.',
    bars: 2,
    goalBpm: 120,
    staves: [{ clef: 'treble' }, { clef: 'bass' }],
    variant: 'right above, left below',
    notes: together([...run('0', '1/2', 'C4 E4 G4 E4 D4 F4 A4 F4 E4 G4 B4 G4'), ...run('6', '2', 'C4')]),
  }),
  passageOf({
    id: 'in-on-the-upbeat',
    title: 'In on the upbeat',
    about: 'Two notes to the beat, beginning on the last upbeat of the count-in and leaning over each bar line.',
    pickup: '1/2',
    bars: 2,
    goalBpm: 144,
    variant: '',
    notes: [...run('-1/2', '1/2', 'G4 C5 B4 A4 G4 F4 E4 D4 E4 C4 D4 E4 F4'), ...run('6', '1', 'G4')],
  }),
];

/** A ready passage by its id, or undefined. */
export const builtInPassage = (id: string): Passage | undefined => BUILT_IN_PASSAGES.find((passage) => passage.id === id);
