import { bisector, max, range } from 'd3-array';
import type { z } from 'zod';
import { meterAt } from '../rhythm/metric';
import { beats, writeBeats } from '../schema/beats';
import { barStarts, fifthsAt, meterBeats } from '../schema/frame';
import type { KeyChangeSchema, Marks, MeterChange } from '../schema/notation';
import type { Passage, PassageNote, Section } from '../schema/passage';
import { endOf, withoutLooseEnds } from './loose-ends';

/** Bars that were copied: the meter of each, and its notes from its beginning on, with their marks in each variant. */
export interface CopiedBars {
  beatUnit: string;
  bars: { meter: Meter; notes: PassageNote[] }[];
  marks: Readonly<Record<string, Readonly<Record<string, Marks>>>>;
}

type Meter = Pick<MeterChange, 'count' | 'unit'>;

const meterIn = ({ meters }: Pick<Passage, 'meters'>, at: ReturnType<typeof beats>): Meter => {
  const { count, unit } = meterAt({ meters }, at);
  return { count, unit };
};

/** The notes that begin in each bar, from its beginning on; those of a pickup are in none. */
const notesByBar = (passage: Passage): PassageNote[][] => {
  const starts = barStarts(passage);
  const bars = range(passage.bars).map((): PassageNote[] => []);
  for (const note of passage.notes) {
    const at = beats(note.at);
    const bar = startOf.right(starts, at.valueOf()) - 1;
    bars[bar]?.push({ ...note, at: writeBeats(at.sub(starts[bar] ?? 0)) });
  }
  return bars;
};

const startOf = bisector((start: ReturnType<typeof beats>) => start.valueOf());

/** A passage in which no note reaches over a bar's beginning. */
const cutAt = (passage: Passage, bar: number): Passage => {
  const line = barStarts(passage)[bar] ?? beats(0);
  const reachesOver = (note: PassageNote) => beats(note.at).compare(line) < 0 && endOf(note).compare(line) > 0;
  return {
    ...passage,
    notes: passage.notes.map((note) => (reachesOver(note) ? { ...note, length: writeBeats(line.sub(beats(note.at))) } : note)),
  };
};

/**
 * Bars to be put in elsewhere.
 *
 * @param first from 0
 * @param last from 0, itself among them
 */
export const copiedBars = (passage: Passage, first: number, last: number): CopiedBars => {
  const bars = takenApart(cutAt(passage, last + 1)).slice(first, last + 1);
  const ids = new Set(bars.flatMap(({ notes }) => notes.map(({ id }) => id)));
  return {
    beatUnit: passage.beatUnit,
    bars: bars.map(({ meter, notes }) => ({ meter, notes })),
    marks: Object.fromEntries(
      passage.variants.map((variant) => [
        variant.id,
        Object.fromEntries(Object.entries(variant.marks).filter(([id]) => ids.has(id))),
      ]),
    ),
  };
};

/** One bar of a passage taken apart. */
interface Bar {
  meter: Meter;
  fifths: number;
  number: number | undefined;
  notes: PassageNote[];
}

const takenApart = (passage: Passage): Bar[] => {
  const starts = barStarts(passage);
  return notesByBar(passage).map((notes, bar) => ({
    meter: meterIn(passage, starts[bar] ?? beats(0)),
    fifths: fifthsAt(passage, starts[bar] ?? beats(0)),
    number: passage.pageBars?.[bar],
    notes,
  }));
};

/** Changes where something becomes another from one bar to the next. */
const changesOf = <Value extends object>(values: readonly Value[], starts: readonly string[]): ({ at: string } & Value)[] =>
  values.flatMap((value, k) =>
    k > 0 && JSON.stringify(value) === JSON.stringify(values[k - 1]) ? [] : [{ at: starts[k] as string, ...value }],
  );

const putTogether = (passage: Passage, bars: readonly Bar[], sections: Section[]): Passage => {
  const starts = [beats(0)];
  for (const { meter } of bars) starts.push((starts.at(-1) ?? beats(0)).add(meterBeats(meter, passage.beatUnit)));
  const written = starts.map(writeBeats);
  const { pageBars: _, text: __, ...rest } = passage;
  return withoutLooseEnds({
    ...rest,
    bars: bars.length,
    meters: changesOf(
      bars.map(({ meter }) => meter as Omit<MeterChange, 'at'>),
      written,
    ),
    keys: changesOf<Omit<z.infer<typeof KeyChangeSchema>, 'at'>>(
      bars.map(({ fifths }) => ({ fifths })),
      written,
    ),
    ...(passage.pageBars ? { pageBars: bars.map(({ number = 0 }) => number) } : {}),
    notes: [
      ...passage.notes.filter(({ at }) => beats(at).compare(0) < 0),
      ...bars.flatMap(({ notes }, k) =>
        notes.map((note) => ({ ...note, at: writeBeats(beats(note.at).add(starts[k] as ReturnType<typeof beats>)) })),
      ),
    ],
    sections,
  });
};

/**
 * A passage without some of its bars; what follows moves up, sections with it. As it is where no note would be left.
 *
 * @param first from 0
 * @param last from 0, itself among them
 */
export const withoutBars = (passage: Passage, first: number, last: number): Passage => {
  const bars = takenApart(cutAt(passage, first)).filter((_, k) => k < first || k > last);
  if (!bars.some(({ notes }) => notes.some(({ grace }) => !grace))) return passage;
  /** How many bars are left up to one, itself among them. */
  const leftUpTo = (bar: number) => bar - Math.max(0, Math.min(bar, last + 1) - first);
  const sections = passage.sections.flatMap((section): Section[] => {
    const fromBar = leftUpTo(section.fromBar - 1) + 1;
    const toBar = leftUpTo(section.toBar);
    return toBar < fromBar ? [] : [{ ...section, fromBar, toBar }];
  });
  return putTogether(passage, bars, sections);
};

/** A passage with a bar of silence, of the meter there, put in before one of its own. */
export const withSilentBar = (passage: Passage, bar: number): Passage => {
  const meter = meterIn(passage, barStarts(passage)[bar] ?? beats(0));
  return withBars(passage, bar, { beatUnit: passage.beatUnit, bars: [{ meter, notes: [] }], marks: {} }) ?? passage;
};

/**
 * A passage with copied bars put in before one of its own; what follows moves on, sections with it. Null where they count another beat.
 *
 * @param bar from 0; as many as there are for the end
 */
export const withBars = (passage: Passage, bar: number, copied: CopiedBars): Passage | null => {
  if (copied.beatUnit !== passage.beatUnit) return null;
  const last = max(passage.notes, ({ id }) => Number(/^n(\d+)/.exec(id)?.[1] ?? 0)) ?? 0;
  const ids = new Map(copied.bars.flatMap(({ notes }) => notes).map(({ id }, k) => [id, `n${last + k + 1}`]));
  const putIn = (note: PassageNote): PassageNote[] => {
    const { slurTo, ...rest } = note;
    const to = slurTo === undefined ? undefined : ids.get(slurTo);
    // A staff that is not there has no notes.
    return note.staff > passage.staves.length
      ? []
      : [{ ...rest, id: ids.get(note.id) as string, ...(to ? { slurTo: to } : {}) }];
  };
  const bars = takenApart(cutAt(passage, bar));
  const beside = bars[Math.min(bar, bars.length - 1)] as Bar;
  const put = copied.bars.map(
    ({ meter, notes }): Bar => ({ meter, fifths: beside.fifths, number: beside.number, notes: notes.flatMap(putIn) }),
  );
  const variants = passage.variants.map((variant, k) => {
    const own = copied.marks[variant.id] ?? (k === 0 ? Object.values(copied.marks)[0] : undefined) ?? {};
    const moved = Object.entries(own).flatMap(([id, marks]) => (ids.has(id) ? [[ids.get(id) as string, marks] as const] : []));
    return { ...variant, marks: { ...variant.marks, ...Object.fromEntries(moved) } };
  });
  const sections = passage.sections.map((section) => ({
    ...section,
    fromBar: section.fromBar > bar ? section.fromBar + put.length : section.fromBar,
    toBar: section.toBar > bar ? section.toBar + put.length : section.toBar,
  }));
  return putTogether({ ...passage, variants }, [...bars.slice(0, bar), ...put, ...bars.slice(bar)], sections);
};
