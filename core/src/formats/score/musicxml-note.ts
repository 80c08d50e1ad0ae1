import type Fraction from 'fraction.js';
import { beats } from '../../schema/beats';
import type { Marks, Pitch } from '../../schema/notation';
import type { PassageNote } from '../../schema/passage';
import { printedNotations } from './musicxml-printed';
import { type WrittenValue, writtenValue } from './written-values';
import type { Written } from './xml-tree';

/** Names of the note values, by what divides the whole note. */
export const NOTE_TYPES: Record<number, string> = {
  1: 'whole',
  2: 'half',
  4: 'quarter',
  8: 'eighth',
  16: '16th',
  32: '32nd',
  64: '64th',
};

/** What surrounds a note when it is written. */
export interface NoteSetting {
  kind: 'note' | 'grace';
  /** Of its symbol, in whole notes. */
  length: Fraction;
  /** In divisions of the file. */
  duration: number;
  voice: number;
  /** Said where there is more than one. */
  staff: number | null;
  /** Whether it belongs to the chord of the note before. */
  isChord: boolean;
  /** Whether it begins here; what goes on has its marks where it began. */
  isFirst: boolean;
  tieStop: boolean;
  tieStart: boolean;
  slurs: { starts: readonly number[]; stops: readonly number[] };
  marks: Marks;
  /** The syllable that is sung to it. */
  lyric: Written | undefined;
}

const technical = (marks: Marks): Written | null => {
  const inside: Written[] = [
    ...(marks.stroke ? [{ name: `${marks.stroke}-bow` }] : []),
    ...(marks.finger ? [{ name: 'fingering', inside: marks.finger }] : []),
    ...(marks.string ? [{ name: 'string', inside: marks.string }] : []),
  ];
  return inside.length ? { name: 'technical', inside } : null;
};

const articulations = (note: PassageNote, marks: Marks): Written | null => {
  const inside: Written[] = [
    ...(note.accent && note.articulation !== 'marcato' ? [{ name: 'accent' }] : []),
    ...(note.articulation ? [{ name: note.articulation === 'marcato' ? 'strong-accent' : note.articulation }] : []),
    ...(marks.breath ? [{ name: 'breath-mark' }] : []),
  ];
  return inside.length ? { name: 'articulations', inside } : null;
};

const pitchElement = (pitch: Pitch | null): Written =>
  pitch
    ? {
        name: 'pitch',
        inside: [
          { name: 'step', inside: pitch.step },
          pitch.alter !== 0 && { name: 'alter', inside: pitch.alter },
          { name: 'octave', inside: pitch.octave },
        ],
      }
    : {
        name: 'unpitched',
        inside: [
          { name: 'display-step', inside: 'B' },
          { name: 'display-octave', inside: 4 },
        ],
      };

const valueElements = (value: WrittenValue | null): (Written | null | undefined)[] => [
  value && { name: 'type', inside: NOTE_TYPES[value.value] ?? '64th' },
  ...Array.from({ length: value?.dots ?? 0 }, () => ({ name: 'dot' })),
  value?.tuplet && {
    name: 'time-modification',
    inside: [
      { name: 'actual-notes', inside: value.tuplet.actual },
      { name: 'normal-notes', inside: value.tuplet.normal },
    ],
  },
];

/** The element of a note. */
export const noteElement = (note: PassageNote, setting: NoteSetting): Written => {
  const { tieStop, tieStart, isFirst, slurs, marks } = setting;
  const isGrace = setting.kind === 'grace';
  const notations: (Written | null | undefined | false)[] = [
    tieStop && { name: 'tied', attributes: { type: 'stop' } },
    tieStart && { name: 'tied', attributes: { type: 'start' } },
    ...(isFirst
      ? [
          ...slurs.stops.map((number) => ({ name: 'slur', attributes: { type: 'stop', number } })),
          ...slurs.starts.map((number) => ({ name: 'slur', attributes: { type: 'start', number } })),
          technical(marks),
          articulations(note, marks),
          ...printedNotations(note.printed ?? {}),
        ]
      : []),
  ];
  return {
    name: 'note',
    inside: [
      isGrace && { name: 'grace', attributes: { slash: 'yes' } },
      setting.isChord && { name: 'chord' },
      pitchElement(note.pitch),
      !isGrace && { name: 'duration', inside: setting.duration },
      tieStop && !isGrace && { name: 'tie', attributes: { type: 'stop' } },
      tieStart && !isGrace && { name: 'tie', attributes: { type: 'start' } },
      { name: 'voice', inside: setting.voice },
      ...valueElements(writtenValue(isGrace ? beats('1/8') : setting.length)),
      setting.staff !== null && { name: 'staff', inside: setting.staff },
      notations.some(Boolean) && { name: 'notations', inside: notations },
      isFirst && setting.lyric,
    ],
  };
};

/** The element of a rest. */
export const restElement = ({
  length,
  duration,
  voice,
  staff,
}: Pick<NoteSetting, 'length' | 'duration' | 'voice' | 'staff'>): Written => ({
  name: 'note',
  inside: [
    { name: 'rest' },
    { name: 'duration', inside: duration },
    { name: 'voice', inside: voice },
    ...valueElements(writtenValue(length)),
    staff !== null && { name: 'staff', inside: staff },
  ],
});
