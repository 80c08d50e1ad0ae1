import { max } from 'd3-array';
import type { MusicalInstrument } from '../schema/instrument';
import type { Marks } from '../schema/notation';
import type { Passage, Section } from '../schema/passage';
import { FIRST_VARIANT } from '../schema/practice-config';
import { matchedNotes } from './match-notes';

/**
 * A passage whose notes were written anew: what was there keeps its id ({@link matchedNotes}), and with it its marks in every variant, its
 * figures and its history; what is new gets one that no note had. Marks that were written with the notes go to the first variant, and what
 * was written there before and is no more goes.
 *
 * @param read the notes as they were written before, where they were written at all
 */
export const rewritten = (before: Passage, written: Passage, read: Passage | null = null): Passage => {
  const known = matchedNotes(before.notes, written.notes);
  let last = max(before.notes, ({ id }) => Number(/^n(\d+)/.exec(id)?.[1] ?? 0)) ?? 0;
  const ids = new Map<string, string>();
  for (const { id } of written.notes) {
    const own = known.get(id);
    if (own === undefined) last += 1;
    ids.set(id, own ?? `n${last}`);
  }
  const idOf = (id: string) => ids.get(id) as string;
  const notes = written.notes.map((note) => ({
    ...note,
    id: idOf(note.id),
    ...(note.slurTo === undefined ? {} : { slurTo: idOf(note.slurTo) }),
  }));
  const there = new Set(notes.map(({ id }) => id));
  const kept = before.variants.map((variant) => ({
    ...variant,
    marks: Object.fromEntries(Object.entries(variant.marks).filter(([id]) => there.has(id))),
  }));
  const typed = Object.fromEntries(Object.entries(written.variants[0]?.marks ?? {}).map(([id, marks]) => [idOf(id), marks]));
  const [first, ...others] = kept;
  const erased = new Set(read ? erasedMarks(before, read, typed) : []);
  const own = Object.fromEntries(
    Object.entries(first?.marks ?? {}).flatMap(([id, marks]) => {
      const left = Object.fromEntries(Object.entries(marks).filter(([kind]) => !erased.has(`${id} ${kind}`)));
      return Object.keys(left).length > 0 ? [[id, left]] : [];
    }),
  );
  const variants =
    Object.keys(typed).length > 0 || first
      ? [{ id: first?.id ?? FIRST_VARIANT, name: first?.name ?? 'as written', marks: { ...own, ...typed } }, ...others]
      : [];
  const sections = before.sections
    .filter(({ fromBar }) => fromBar <= written.bars)
    .map((section) => ({ ...section, toBar: Math.min(section.toBar, written.bars) }));
  const { generator: _, swing: __, ...rest } = before;
  const { beatUnit, pickup, meters, keys, staves, bars, firstBarNumber, pageBars, title, goalBpm } = written;
  const { transposition = before.transposition, swing } = written;
  return {
    ...rest,
    title,
    goalBpm,
    beatUnit,
    pickup,
    meters,
    keys,
    staves,
    bars,
    firstBarNumber,
    ...(pageBars ? { pageBars } : { pageBars: undefined }),
    ...(transposition ? { transposition } : {}),
    ...(swing === undefined ? {} : { swing }),
    notes,
    variants,
    sections,
  };
};

/** Marks that stood in the text before and stand there no more, each by the note's id and the kind of mark. */
const erasedMarks = (before: Passage, read: Passage, typed: Readonly<Record<string, Marks>>): string[] => {
  const known = matchedNotes(before.notes, read.notes);
  return Object.entries(read.variants[0]?.marks ?? {}).flatMap(([id, marks]) => {
    const own = known.get(id);
    return own === undefined
      ? []
      : Object.keys(marks).flatMap((kind) => (typed[own]?.[kind as keyof Marks] === undefined ? [`${own} ${kind}`] : []));
  });
};

/** A passage with a mark of one of its notes changed in a variant; an empty mark is taken away. A passage without variants gets one. */
export const withMark = (passage: Passage, variantId: string, noteId: string, change: Partial<Marks>): Passage => {
  const variants = passage.variants.length > 0 ? passage.variants : [{ id: FIRST_VARIANT, name: 'first', marks: {} }];
  return {
    ...passage,
    variants: variants.map((variant) => {
      if (variant.id !== variantId) return variant;
      const own = Object.entries({ ...variant.marks[noteId], ...change }).filter(
        ([, value]) => value !== undefined && value !== '' && value !== false,
      );
      const { [noteId]: _, ...others } = variant.marks;
      return { ...variant, marks: own.length > 0 ? { ...others, [noteId]: Object.fromEntries(own) as Marks } : others };
    }),
  };
};

/** A passage with a variant more: a copy of another one's marks, to be changed. */
export const withVariant = (passage: Passage, fromId: string, id: string, name: string): Passage => {
  const variants = passage.variants.length > 0 ? passage.variants : [{ id: FIRST_VARIANT, name: 'first', marks: {} }];
  const source = variants.find((variant) => variant.id === fromId) ?? variants[0];
  return { ...passage, variants: [...variants, { id, name, marks: structuredClone(source?.marks ?? {}) }] };
};

/** A passage one of whose variants has another name. */
export const withVariantName = (passage: Passage, variantId: string, name: string): Passage => ({
  ...passage,
  variants: passage.variants.map((variant) => (variant.id === variantId ? { ...variant, name } : variant)),
});

/** A passage with the other hand or stroke everywhere in a variant: another starting hand, another bowing. */
export const withHandsSwapped = (passage: Passage, variantId: string): Passage => ({
  ...passage,
  variants: passage.variants.map((variant) =>
    variant.id !== variantId
      ? variant
      : {
          ...variant,
          marks: Object.fromEntries(
            Object.entries(variant.marks).map(([id, marks]) => [
              id,
              {
                ...marks,
                ...(marks.hand ? { hand: marks.hand === 'left' ? ('right' as const) : ('left' as const) } : {}),
                ...(marks.stroke ? { stroke: marks.stroke === 'up' ? ('down' as const) : ('up' as const) } : {}),
              },
            ]),
          ),
        },
  ),
});

/** A passage with its sections put in the place of those that were there. */
export const withSections = (passage: Passage, sections: readonly Section[]): Passage => ({
  ...passage,
  sections: [...sections],
});

/** A passage for an instrument: it is written as that one reads it; the notes stay as they are written. */
export const forInstrument = (passage: Passage, { id, transposition }: MusicalInstrument): Passage => {
  const { transposition: _, ...rest } = passage;
  return { ...rest, instrumentId: id, ...(transposition ? { transposition } : {}) };
};

/** A copy of a passage under another id, with its marks and sections and without its history. */
export const duplicateOf = (passage: Passage, id: string): Passage => ({
  ...structuredClone(passage),
  id,
  revision: 1,
  title: `${passage.title.slice(0, 112)} (copy)`,
});
