import type Fraction from 'fraction.js';
import { CLEFS, clefChanges } from '../../rhythm/clefs';
import { beats } from '../../schema/beats';
import type { Clef } from '../../schema/notation';
import type { Passage, PassageNote, Variant } from '../../schema/passage';
import { harmonyElement } from './musicxml-harmony';
import { NOTE_TYPES, type NoteSetting, noteElement, restElement } from './musicxml-note';
import { lyricElements } from './musicxml-printed';
import { printedOn } from './printed';
import { type WrittenBar, writtenBars } from './written-bars';
import { commonDenominator, writtenValue } from './written-values';
import { type WrittenItem, type WrittenVoice, writtenItems, writtenVoices } from './written-voice';
import { type Written, writeXml } from './xml-tree';

const DOCTYPE =
  '<!DOCTYPE score-partwise PUBLIC "-//Recordare//DTD MusicXML 4.0 Partwise//EN" "http://www.musicxml.org/dtds/partwise.dtd">\n';

const clefElement = (clef: Clef, staff: number): Written => ({
  name: 'clef',
  attributes: { number: staff },
  inside: [{ name: 'sign', inside: CLEFS[clef].sign }, clef !== 'percussion' && { name: 'line', inside: CLEFS[clef].line }],
});

/** Clefs and transposition: said once, at the beginning. */
const clefsAndTransposition = ({ staves, transposition = 0 }: Passage): Written[] => [
  ...staves.map(({ clef }, k) => clefElement(clef, k + 1)),
  ...(transposition === 0
    ? []
    : [
        {
          name: 'transpose',
          inside: [
            { name: 'chromatic', inside: transposition % 12 },
            Math.trunc(transposition / 12) !== 0 && { name: 'octave-change', inside: Math.trunc(transposition / 12) },
          ],
        },
      ]),
];

/** The voices that are heard in a bar, and the first of each staff, which says its silence. */
const voicesIn = (voices: readonly WrittenVoice[], bar: WrittenBar, unit: Fraction) =>
  voices.flatMap((voice, k) => {
    const isLead = voices[k - 1]?.staff !== voice.staff;
    const items = writtenItems(voice, bar, unit);
    return isLead || items.some(({ kind }) => kind !== 'rest') ? [{ voice, isLead, items }] : [];
  });

/** Writes a passage as MusicXML 4.0, its repeats written out, with the marks of a variant. Source: W3C Community Group Report. */
export const writeMusicXml = (passage: Passage, variant: Variant | null = passage.variants[0] ?? null): string => {
  const unit = beats(passage.beatUnit);
  const bars = writtenBars(passage);
  const voices = writtenVoices(passage);
  const written = bars.map((bar) => voicesIn(voices, bar, unit));
  const lengths = written.flatMap((own) =>
    own.flatMap(({ items }) => items.flatMap((item) => (item.kind === 'graces' ? [] : [item.length]))),
  );
  const divisions = commonDenominator(lengths.map((length) => length.mul(4)));
  const duration = (wholeNotes: Fraction) => wholeNotes.mul(4).mul(divisions).valueOf();
  const staffOf = ({ staff }: WrittenVoice) => (passage.staves.length > 1 ? staff : null);
  const place = (note: PassageNote, at: Fraction) => `${at.toFraction()}|${note.staff}|${JSON.stringify(note.pitch)}`;
  const tiedInto = new Set(
    passage.notes.filter(({ tie }) => tie).map((note) => place(note, beats(note.at).add(beats(note.length)))),
  );
  const slurs = slurNumbers(passage.notes);
  const lyrics = new Map(voices.flatMap(({ notes }) => [...lyricElements(notes)]));
  const clefs = passage.staves.flatMap(({ clef }, k) =>
    clefChanges(passage.notes, clef, k + 1).map((change) => ({ ...change, staff: k + 1 })),
  );

  const itemElements = (item: WrittenItem, voice: WrittenVoice): Written[] => {
    const staff = staffOf(voice);
    if (item.kind === 'rest')
      return [restElement({ length: item.length, duration: duration(item.length), voice: voice.voice, staff })];
    const settingOf = (note: PassageNote) => ({
      voice: voice.voice,
      staff,
      slurs: slurs.get(note.id) ?? { starts: [], stops: [] },
      marks: variant?.marks[note.id] ?? {},
      lyric: lyrics.get(note.id),
    });
    if (item.kind === 'graces')
      return item.notes.map((note) =>
        noteElement(note, {
          ...settingOf(note),
          kind: 'grace',
          length: beats(0),
          duration: 0,
          isChord: false,
          isFirst: true,
          tieStop: false,
          tieStart: false,
        }),
      );
    const { notes, length, isFirst, tied } = item;
    const [{ dynamic }] = notes;
    const { chord } = printedOn(notes);
    const direction: Written = {
      name: 'direction',
      attributes: { placement: 'below' },
      inside: [
        { name: 'direction-type', inside: [{ name: 'dynamics', inside: [{ name: dynamic ?? '' }] }] },
        staff !== null && { name: 'staff', inside: staff },
      ],
    };
    return [
      ...(isFirst && chord ? [harmonyElement(chord, staff)] : []),
      ...(isFirst && dynamic ? [direction] : []),
      ...notes.map((note, k) =>
        noteElement(note, {
          ...settingOf(note),
          kind: 'note',
          length,
          duration: duration(length),
          isChord: k > 0,
          isFirst,
          tieStop: !isFirst || tiedInto.has(place(note, beats(note.at))),
          tieStart: tied.includes(note),
        } satisfies NoteSetting),
      ),
    ];
  };

  const contents = (bar: WrittenBar, k: number): Written[] =>
    (written[k] ?? []).flatMap(({ voice, isLead, items }, place) => {
      const sounding = items.map(({ kind }) => kind !== 'rest');
      const [first, last] = [sounding.indexOf(true), sounding.lastIndexOf(true)];
      const back: Written[] =
        place > 0 ? [{ name: 'backup', inside: [{ name: 'duration', inside: duration(bar.to.sub(bar.from).mul(unit)) }] }] : [];
      return [
        ...back,
        ...items.flatMap((item, n) =>
          // A further voice begins where its first note does: silence before and after it is not printed.
          item.kind === 'rest' && !isLead && (n < first || n > last)
            ? [
                {
                  name: 'forward',
                  inside: [
                    { name: 'duration', inside: duration(item.length) },
                    { name: 'voice', inside: voice.voice },
                    staffOf(voice) !== null && { name: 'staff', inside: voice.staff },
                  ],
                } satisfies Written,
              ]
            : itemElements(item, voice),
        ),
      ];
    });

  /** Changes of clef, each at its place: forward from the beginning of the bar, and back. */
  const clefsIn = (bar: WrittenBar): Written[] =>
    clefs
      .filter(({ at }) => at.compare(bar.from) >= 0 && at.compare(bar.to) < 0)
      .flatMap(({ at, clef, staff }): Written[] => {
        const change = { name: 'attributes', inside: [clefElement(clef, staff)] };
        const by = [{ name: 'duration', inside: duration(at.sub(bar.from).mul(unit)) }];
        return at.equals(bar.from) ? [change] : [{ name: 'forward', inside: by }, change, { name: 'backup', inside: by }];
      });

  const tempo: Written = {
    name: 'direction',
    attributes: { placement: 'above' },
    inside: [
      { name: 'direction-type', inside: [metronome(passage)] },
      {
        name: 'sound',
        attributes: { tempo: passage.goalBpm * unit.mul(4).valueOf() },
        ...(typeof passage.swing === 'number' ? { inside: [swing(passage.swing)] } : {}),
      },
    ],
  };
  const measures = bars.map((bar, k): Written => {
    const first = k === 0;
    const attributes: (Written | null | false)[] = [
      first && { name: 'divisions', inside: divisions },
      bar.fifths !== null && { name: 'key', inside: [{ name: 'fifths', inside: bar.fifths }] },
      bar.meter && {
        name: 'time',
        inside: [
          { name: 'beats', inside: bar.meter.count },
          { name: 'beat-type', inside: bar.meter.unit },
        ],
      },
      first && passage.staves.length > 1 && { name: 'staves', inside: passage.staves.length },
      ...(first ? clefsAndTransposition(passage) : []),
    ];
    return {
      name: 'measure',
      attributes: bar.isPickup ? { number: bar.number, implicit: 'yes' } : { number: bar.number },
      inside: [
        attributes.some(Boolean) && { name: 'attributes', inside: attributes },
        first && tempo,
        ...clefsIn(bar),
        ...contents(bar, k),
        k === bars.length - 1 && {
          name: 'barline',
          attributes: { location: 'right' },
          inside: [{ name: 'bar-style', inside: 'light-heavy' }],
        },
      ],
    };
  });

  return writeXml(
    {
      name: 'score-partwise',
      attributes: { version: '4.0' },
      inside: [
        { name: 'work', inside: [{ name: 'work-title', inside: passage.title }] },
        { name: 'identification', inside: [{ name: 'encoding', inside: [{ name: 'software', inside: 'Isochron' }] }] },
        {
          name: 'part-list',
          inside: [{ name: 'score-part', attributes: { id: 'P1' }, inside: [{ name: 'part-name', inside: passage.title }] }],
        },
        { name: 'part', attributes: { id: 'P1' }, inside: measures },
      ],
    },
    DOCTYPE,
  );
};

/** The format counts both eighths in whole numbers. */
const swing = (ratio: number): Written => {
  const { n, d } = beats(ratio).simplify(0.01);
  return {
    name: 'swing',
    inside: [
      { name: 'first', inside: Number(n) },
      { name: 'second', inside: Number(d) },
      { name: 'swing-type', inside: 'eighth' },
    ],
  };
};

const metronome = ({ beatUnit, goalBpm }: Passage): Written => {
  const value = writtenValue(beats(beatUnit));
  return {
    name: 'metronome',
    inside: [
      { name: 'beat-unit', inside: NOTE_TYPES[value?.value ?? 4] ?? 'quarter' },
      ...Array.from({ length: value?.dots ?? 0 }, () => ({ name: 'beat-unit-dot' })),
      { name: 'per-minute', inside: goalBpm },
    ],
  };
};

/** Numbers of the slurs at each note: up to six may be open at a time. */
const slurNumbers = (notes: readonly PassageNote[]): Map<string, { starts: number[]; stops: number[] }> => {
  const ends = new Map<string, { starts: number[]; stops: number[] }>();
  const at = (id: string) => {
    const own = ends.get(id) ?? { starts: [], stops: [] };
    ends.set(id, own);
    return own;
  };
  const place = new Map(notes.map((note, k) => [note.id, k]));
  const open: { number: number; until: number }[] = [];
  notes.forEach((note, k) => {
    for (let n = open.length - 1; n >= 0; n -= 1) if ((open[n] as { until: number }).until <= k) open.splice(n, 1);
    const to = note.slurTo === undefined ? undefined : place.get(note.slurTo);
    if (to === undefined || to <= k) return;
    const number = [1, 2, 3, 4, 5, 6].find((one) => !open.some((other) => other.number === one)) ?? 6;
    open.push({ number, until: to });
    at(note.id).starts.push(number);
    at(note.slurTo as string).stops.push(number);
  });
  return ends;
};
