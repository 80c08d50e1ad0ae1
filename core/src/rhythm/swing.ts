import type Fraction from 'fraction.js';
import { beats } from '../schema/beats';
import type { Grid } from '../schema/grid';
import { type SectionSwing, type Swing, SwingSchema } from '../schema/notation';
import type { Passage } from '../schema/passage';

/** As much of a grid as its swing is told by. */
export type Swinging = Pick<Grid, 'events'> & Partial<Pick<Grid, 'beatUnit' | 'swing'>>;

/** What a player's own swing is looked for around: two to one (common practice, no source). */
const USUAL_RATIO = 2;

const HALF = beats('1/2');
const inBeat = (at: Fraction): Fraction => at.sub(at.floor());
const beatOf = (at: Fraction): string => at.floor().toFraction();

/**
 * How the beat at a place swings; null where it does not. Only beats that divide into two and nothing else do: halves are eighths here, so
 * that only beats of a quarter swing (common practice, no source).
 */
const beatSwing = ({ events, beatUnit, swing }: Swinging): ((at: Fraction) => Swing | null) => {
  if (beatUnit !== '1/4') return () => null;
  const otherwise = new Set<string>();
  const own = new Map<string, SectionSwing>();
  for (const event of events) {
    const place = beats(event.at);
    const inside = inBeat(place);
    if (!inside.equals(0) && !inside.equals(HALF)) otherwise.add(beatOf(place));
    if (event.swing !== undefined) own.set(beatOf(place), event.swing);
  }
  return (at) => {
    const beat = beatOf(at);
    const asked = own.get(beat) ?? swing ?? 'straight';
    return asked === 'straight' || otherwise.has(beat) ? null : asked;
  };
};

/** How each event of a grid is swung: the second halves of beats that swing; null for all others. */
export const swingOfEvents = (grid: Swinging): (Swing | null)[] => {
  const swingAt = beatSwing(grid);
  return grid.events.map(({ at }) => (inBeat(beats(at)).equals(HALF) ? swingAt(beats(at)) : null));
};

/** Where places of a grid sound, in beats: as written, but for the second halves of beats that swing. */
export const soundingBeat = (grid: Swinging): ((at: Fraction) => number) => {
  const swingAt = beatSwing(grid);
  return (at) => {
    const swing = inBeat(at).equals(HALF) ? swingAt(at) : null;
    if (swing === null) return at.valueOf();
    const ratio = swing === 'own' ? USUAL_RATIO : swing;
    return at.floor().valueOf() + ratio / (1 + ratio);
  };
};

/** Whether a grid has anything that could swing. */
export const canSwing = (grid: Swinging): boolean =>
  swingOfEvents({ ...grid, events: grid.events.map(({ swing: _, ...event }) => event), swing: 'own' }).includes('own');

/** Where a grid says how its eighths swing: at its first event unless they are straight, and wherever that changes, by the event's number. */
export const swingMarks = (grid: Swinging): Map<number, SectionSwing> => {
  if (!canSwing(grid)) return new Map();
  let before: SectionSwing = 'straight';
  return new Map(
    grid.events.flatMap((event, k): [number, SectionSwing][] => {
      const now = event.swing ?? grid.swing ?? 'straight';
      const isNew = now !== before;
      before = now;
      return isNew ? [[k, now]] : [];
    }),
  );
};

/** A swing from what was chosen or typed: `own`, or a ratio as text; null for anything else. */
export const swingFrom = (text: string): Swing | null => {
  const read = SwingSchema.safeParse(text === 'own' ? text : Number(text));
  return read.success ? read.data : null;
};

/** A passage whose eighths swing so: `own`, a ratio as text, or anything else for straight. */
export const withSwing = (passage: Passage, swing: string): Passage => {
  const { swing: _, ...straight } = passage;
  const read = swingFrom(swing);
  return read === null ? straight : { ...straight, swing: read };
};

/**
 * How the eighths of a bar swing, where a section says so: the shortest section around it that does; undefined where none does.
 * @param bar The bar, from 1.
 */
export const sectionSwing = ({ sections }: Pick<Passage, 'sections'>, bar: number): SectionSwing | undefined =>
  sections
    .filter(({ swing, fromBar, toBar }) => swing !== undefined && fromBar <= bar && bar <= toBar)
    .sort((a, b) => a.toBar - a.fromBar - (b.toBar - b.fromBar))[0]?.swing;
