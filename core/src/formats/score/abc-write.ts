import type Fraction from 'fraction.js';
import { clefFollower } from '../../rhythm/clefs';
import { beats } from '../../schema/beats';
import type { Pitch } from '../../schema/notation';
import type { Passage, PassageNote, Variant } from '../../schema/passage';
import { ABC_CLEFS, printedSigns, wordLine } from './abc-printed';
import { majorKey } from './key-names';
import { keyAlters } from './pitch-spelling';
import { writtenBars } from './written-bars';
import { writtenValue } from './written-values';
import { type WrittenItem, writtenItems, writtenVoices } from './written-voice';

const ACCIDENTALS: Record<number, string> = { [-2]: '__', [-1]: '_', 0: '=', 1: '^', 2: '^^' };

/** A pitch without its accidental: C is middle C, c an octave higher. */
const letter = ({ step, octave }: Pitch): string =>
  octave >= 5 ? `${step.toLowerCase()}${"'".repeat(octave - 5)}` : `${step}${','.repeat(4 - octave)}`;

/** A length against the unit of a sixteenth: 4, 3/2, 1/2. */
const lengthText = (wholeNotes: Fraction): string => {
  const length = wholeNotes.mul(16);
  return length.equals(1) ? '' : length.toFraction();
};

/** A note or rest with its length. A tuplet has its sign before each of its notes: every length is said exactly, however they stand together. */
const timedText = (text: string, length: Fraction): string => {
  const tuplet = writtenValue(length)?.tuplet;
  // The standard knows groups of two to nine; what is rarer is written as the fraction that it is.
  return tuplet && tuplet.actual <= 9
    ? `(${tuplet.actual}:${tuplet.normal}:1${text}${lengthText(length.mul(tuplet.actual).div(tuplet.normal))}`
    : `${text}${lengthText(length)}`;
};

/** Writes a passage as an ABC tune (standard 2.1), repeats written out, with the fingers and strokes of a variant. */
export const writeAbc = (passage: Passage, variant: Variant | null = passage.variants[0] ?? null): string => {
  const unit = beats(passage.beatUnit);
  const bars = writtenBars(passage);
  const voices = writtenVoices(passage);
  const meter = bars[0]?.meter;
  const firstFifths = bars[0]?.fifths ?? 0;
  const slurStops = new Set(passage.notes.flatMap(({ slurTo }) => slurTo ?? []));
  const clefOf = (staff: number) => passage.staves[staff - 1]?.clef ?? 'treble';
  const numbersOn = (staff: number) => voices.flatMap((voice, v) => (voice.staff === staff ? [v + 1] : [])).join(' ');
  const head = [
    'X:1',
    `T:${passage.title.replace(/[\r\n]/g, ' ')}`,
    `M:${meter?.count ?? 4}/${meter?.unit ?? 4}`,
    'L:1/16',
    `Q:${passage.beatUnit}=${passage.goalBpm}`,
    ...(voices.length > 1 ? [`%%score ${passage.staves.map((_, s) => `(${numbersOn(s + 1)})`).join(' ')}`] : []),
    `K:${majorKey(firstFifths)} clef=${ABC_CLEFS[clefOf(1)]}`,
  ];

  const barText = (items: readonly WrittenItem[], fifths: number, clefTurn: ReturnType<typeof clefFollower>): string => {
    const alters = keyAlters(fifths);
    const written = new Map<string, number>();
    const nameOf = ({ pitch }: PassageNote): string => {
      if (!pitch) return 'B';
      // Some readers take an accidental for its octave alone, some for every octave: it is left out where both take the note right.
      const reached = [pitch.step, `${pitch.step}${pitch.octave}`];
      const isInForce = reached.every((key) => (written.get(key) ?? alters[pitch.step]) === pitch.alter);
      for (const key of reached) written.set(key, pitch.alter);
      return `${isInForce ? '' : ACCIDENTALS[pitch.alter]}${letter(pitch)}`;
    };
    const out: string[] = [];
    for (const item of items) {
      if (item.kind === 'rest') out.push(timedText('z', item.length));
      else if (item.kind === 'graces') out.push(`{${item.notes.map(nameOf).join('')}}`);
      else {
        const { notes, isFirst, tied } = item;
        const [lead] = notes;
        const marks = notes.map(({ id }) => variant?.marks[id] ?? {});
        const signs = isFirst
          ? [
              printedSigns(notes),
              lead.dynamic ? `!${lead.dynamic}!` : '',
              lead.accent ? '!accent!' : '',
              lead.articulation === 'staccato' ? '.' : '',
              lead.articulation === 'tenuto' ? '!tenuto!' : '',
              ...marks.map(({ finger }) => (finger && /^[0-5]$/.test(finger) ? `!${finger}!` : '')),
              marks[0]?.stroke ? `!${marks[0].stroke}bow!` : '',
              notes.some(({ slurTo }) => slurTo !== undefined) ? '(' : '',
            ].join('')
          : '';
        const allTied = tied.length === notes.length;
        const names = notes.map((note) => `${nameOf(note)}${!allTied && tied.includes(note) ? '-' : ''}`);
        const body = names.length > 1 ? `[${names.join('')}]` : (names[0] as string);
        const stopsSlur = isFirst && notes.some(({ id }) => slurStops.has(id));
        const clef = clefTurn(lead);
        out.push(
          `${clef ? `[K:clef=${ABC_CLEFS[clef]}]` : ''}${timedText(`${signs}${body}`, item.length)}${allTied ? '-' : ''}${stopsSlur ? ')' : ''}`,
        );
      }
    }
    return out.join(' ');
  };

  const body = voices.map((voice, v) => {
    let fifths = firstFifths;
    const clefTurn = clefFollower(clefOf(voice.staff));
    const written = bars.map((bar, k) => {
      const changes =
        k === 0
          ? ''
          : [
              bar.meter ? `[M:${bar.meter.count}/${bar.meter.unit}]` : '',
              bar.fifths !== null ? `[K:${majorKey(bar.fifths)}]` : '',
            ].join('');
      fifths = bar.fifths ?? fifths;
      const items = writtenItems(voice, bar, unit);
      const line = `${changes}${barText(items, fifths, clefTurn)} |${k === bars.length - 1 ? ']' : ''}`;
      return [line, wordLine(items)].filter(Boolean).join('\n');
    });
    return [...(voices.length > 1 ? [`V:${v + 1} clef=${ABC_CLEFS[clefOf(voice.staff)]}`] : []), ...written].join('\n');
  });
  return `${[...head, ...body].join('\n')}\n`;
};
