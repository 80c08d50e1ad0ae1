import type Fraction from 'fraction.js';
import { beats } from '../schema/beats';
import type { Grid } from '../schema/grid';
import { SwingSchema } from '../schema/notation';
import type { Passage } from '../schema/passage';

/** As much of a grid as its swing is told by. */
export type Swinging = Pick<Grid, 'events'> & Partial<Pick<Grid, 'beatUnit' | 'swing'>>;

/** What a player's own swing is looked for around: two to one (common practice, no source). */
const USUAL_RATIO = 2;

const HALF = beats('1/2');
const inBeat = (at: Fraction): Fraction => at.sub(at.floor());

/**
 * Which beats divide into two and nothing else: those whose halves swing. Halves are eighths here, so that only beats of a quarter swing
 * (common practice, no source).
 */
const swingingBeats = ({ events, beatUnit, swing }: Swinging): ((at: Fraction) => boolean) => {
  if (swing === undefined || beatUnit !== '1/4') return () => false;
  const otherwise = new Set(
    events.flatMap(({ at }) => {
      const place = beats(at);
      const inside = inBeat(place);
      return inside.equals(0) || inside.equals(HALF) ? [] : [place.floor().toFraction()];
    }),
  );
  return (at) => !otherwise.has(at.floor().toFraction());
};

/** Which events of a grid are swung: the second halves of beats. */
export const swungEvents = (grid: Swinging): boolean[] => {
  const swings = swingingBeats(grid);
  return grid.events.map(({ at }) => inBeat(beats(at)).equals(HALF) && swings(beats(at)));
};

/** Where places of a grid sound, in beats: as written, but for the second halves of beats that swing. */
export const soundingBeat = (grid: Swinging): ((at: Fraction) => number) => {
  const { swing } = grid;
  if (swing === undefined) return (at) => at.valueOf();
  const ratio = swing === 'own' ? USUAL_RATIO : swing;
  const swings = swingingBeats(grid);
  return (at) => (inBeat(at).equals(HALF) && swings(at) ? at.floor().valueOf() + ratio / (1 + ratio) : at.valueOf());
};

/** Whether a grid has anything that could swing. */
export const canSwing = (grid: Swinging): boolean => swungEvents({ ...grid, swing: 'own' }).includes(true);

/** A passage whose eighths swing so: `own`, a ratio as text, or anything else for straight. */
export const withSwing = (passage: Passage, swing: string): Passage => {
  const { swing: _, ...straight } = passage;
  const read = SwingSchema.safeParse(swing === 'own' ? swing : Number(swing));
  return read.success ? { ...straight, swing: read.data } : straight;
};
