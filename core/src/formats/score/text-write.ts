import { clefFollower } from '../../rhythm/clefs';
import { signOf } from '../../rhythm/pitch';
import { beats } from '../../schema/beats';
import type { Marks, Pitch, Printed } from '../../schema/notation';
import type { Passage, PassageNote, Variant } from '../../schema/passage';
import { majorKey } from './key-names';
import { printedOn } from './printed';
import { printedBefore, printedBehind } from './text-printed';
import { type WrittenBar, writtenBars } from './written-bars';
import { type WrittenValue, writtenValue } from './written-values';
import { type WrittenVoice, writtenItems, writtenVoices } from './written-voice';

/** A pitch as it is typed: F#4. */
export const pitchText = ({ step, alter, octave }: Pitch): string => `${step}${signOf(alter)}${octave}`;

const marksText = (marks: Marks, printed: Printed): string =>
  [
    marks.finger,
    marks.hand && (marks.hand === 'right' ? 'R' : 'L'),
    marks.stroke,
    marks.string && `s${marks.string}`,
    marks.stick && `k${marks.stick}`,
    marks.breath && 'breath',
    marks.difficult && '!',
    marks.sign,
    ...printedBehind(printed),
  ]
    .filter(Boolean)
    .map((mark) => `@${mark}`)
    .join('');

const signsOf = (note: PassageNote, { startsSlur, stopsSlur }: { startsSlur: boolean; stopsSlur: boolean }): string =>
  [
    note.articulation === 'marcato' ? '^' : note.accent ? '>' : '',
    note.articulation === 'staccato' ? "'" : '',
    note.articulation === 'tenuto' ? '_' : '',
    stopsSlur ? ')' : '',
    startsSlur ? '(' : '',
  ].join('');

const valueText = ({ value, dots }: Pick<WrittenValue, 'value' | 'dots'>): string => `/${value}${'.'.repeat(dots)}`;

/** Writes a passage in the text notation, with the marks of a variant; repeats written out. What no symbol says is written as a group. */
export const writeText = (passage: Passage, variant: Variant | null = passage.variants[0] ?? null): string => {
  const unit = beats(passage.beatUnit);
  const bars = writtenBars(passage);
  const voices = writtenVoices(passage);
  const [first] = bars;
  const slurStops = new Set(passage.notes.flatMap(({ slurTo }) => slurTo ?? []));

  const barTokens = (voice: WrittenVoice, bar: WrittenBar, clefTurn: ReturnType<typeof clefFollower>): string[] => {
    const tokens: string[] = [];
    let tuplet: string | null = null;
    const put = (text: string, value: WrittenValue | null, signs = '') => {
      const wanted = value?.tuplet ? `${value.tuplet.actual}:${value.tuplet.normal}[` : null;
      if (tuplet && tuplet !== wanted) tokens.push(']');
      if (wanted && tuplet !== wanted) tokens.push(wanted);
      tuplet = wanted;
      tokens.push(`${text}${value ? valueText(value) : ''}${signs}`);
    };
    const head = (note: PassageNote, isFirst: boolean) =>
      `${note.pitch ? pitchText(note.pitch) : 'x'}${isFirst ? marksText(variant?.marks[note.id] ?? {}, note.printed ?? {}) : ''}`;
    for (const item of writtenItems(voice, bar, unit)) {
      if (item.kind === 'rest') put('r', writtenValue(item.length));
      // Grace notes leave the value of the notes as it was: every note has its own written.
      else if (item.kind === 'graces')
        tokens.push('{', ...item.notes.map(({ pitch }) => (pitch ? pitchText(pitch) : 'x')), '}');
      else {
        const { notes, isFirst, tied } = item;
        const [lead] = notes;
        const clef = clefTurn(lead);
        if (clef) tokens.push(`clef=${clef}`);
        if (isFirst) tokens.push(...printedBefore(printedOn(notes)));
        if (isFirst && lead.dynamic) tokens.push(lead.dynamic);
        const ties = tied.length === notes.length ? '~' : '';
        // Where some are tied and others not, they stand first, each with its sign.
        const heads = ties
          ? notes.map((note) => head(note, isFirst))
          : [
              ...tied.map((note) => `${head(note, isFirst)}~`),
              ...notes.filter((note) => !tied.includes(note)).map((note) => head(note, isFirst)),
            ];
        const signs = isFirst
          ? signsOf(lead, {
              startsSlur: notes.some(({ slurTo }) => slurTo !== undefined),
              stopsSlur: notes.some(({ id }) => slurStops.has(id)),
            })
          : '';
        put(heads.join('+'), writtenValue(item.length), `${signs}${ties}`);
      }
    }
    if (tuplet) tokens.push(']');
    return tokens;
  };

  const head = [
    `title: ${passage.title}`,
    ...(first?.meter ? [`meter: ${first.meter.count}/${first.meter.unit}`] : []),
    `key: ${majorKey(first?.fifths ?? 0)}`,
    `beat: ${passage.beatUnit}`,
    `tempo: ${passage.goalBpm}`,
    `clef: ${passage.staves.map(({ clef }) => clef).join(' ')}`,
    ...(passage.swing === undefined ? [] : [`swing: ${passage.swing}`]),
    ...(passage.transposition ? [`transposition: ${passage.transposition}`] : []),
    ...(passage.firstBarNumber !== 1 ? [`bar: ${passage.firstBarNumber}`] : []),
  ];
  const body = voices.map((voice, place) => {
    const clefTurn = clefFollower(passage.staves[voice.staff - 1]?.clef ?? 'treble');
    const written = bars.map((bar, k) =>
      [
        // The first voice says what changes for all.
        ...(place === 0 && k > 0 && bar.meter ? [`meter=${bar.meter.count}/${bar.meter.unit}`] : []),
        ...(place === 0 && k > 0 && bar.fifths !== null ? [`key=${majorKey(bar.fifths)}`] : []),
        ...barTokens(voice, bar, clefTurn),
      ].join(' '),
    );
    return `${voices.length > 1 ? `staff ${voice.staff} voice ${voice.voice}: ` : ''}${written.join(' |\n')} |`;
  });
  return `${[...head, '', ...body].join('\n')}\n`;
};
