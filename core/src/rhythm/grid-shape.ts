import type Fraction from 'fraction.js';
import { beats, beatsNumber } from '../schema/beats';
import type { Grid, GridEvent } from '../schema/grid';
import type { Hand, Marks } from '../schema/notation';
import { midiOf } from './pitch';

/**
 * MIDI note numbers at which an event of a grid sounds, ascending; empty where it has no pitch. Written pitches are moved by the
 * grid's `transposition`, in semitones.
 */
export const pitchesOf = ({ notes }: Pick<GridEvent, 'notes'>, { transposition = 0 }: Pick<Grid, 'transposition'>): number[] =>
  notes.flatMap(({ pitch }) => (pitch ? [midiOf(pitch) + transposition] : []));

/** The pitches of a grid's events, one after the other. */
export const pitchSequence = (grid: Pick<Grid, 'events' | 'transposition'>): number[][] =>
  grid.events.map((event) => pitchesOf(event, grid));

/** The hand of each pitch of a chord of both hands, from the lowest up; undefined where they are not all told. */
export const handsOf = ({ notes }: GridEvent): Hand[] | undefined => {
  const hands = notes.flatMap(({ marks }) => marks.hand ?? []);
  return notes.length > 1 && hands.length === notes.length ? hands : undefined;
};

/** A mark that all notes of an event share; null where they do not, or have none. */
export const commonMark = <Kind extends keyof Marks>({ notes }: GridEvent, kind: Kind): NonNullable<Marks[Kind]> | null => {
  const first = notes[0]?.marks[kind];
  return first !== undefined && notes.every(({ marks }) => marks[kind] === first) ? (first as NonNullable<Marks[Kind]>) : null;
};

/** The most notes per beat that the grid asks for: 1 / its shortest gap between successive events; 1 for a single one. */
export const notesPerBeat = ({ events }: Pick<Grid, 'events'>): number => {
  const at = events.map((event) => beats(event.at));
  const gaps = at.slice(1).map((position, k) => position.sub(at[k] as typeof position));
  const shortest = gaps.reduce<(typeof gaps)[number] | null>(
    (least, gap) => (least && least.compare(gap) <= 0 ? least : gap),
    null,
  );
  return shortest ? shortest.inverse().valueOf() : 1;
};

/** Exact positions of a grid's events, to be compared with bars and beats. */
export const exactPositionsOf = ({ events }: Pick<Grid, 'events'>): Fraction[] => events.map((event) => beats(event.at));

/** Positions of a grid's events as numbers, for times and drawing. */
export const positionsOf = ({ events }: Pick<Grid, 'events'>): number[] => events.map((event) => beatsNumber(event.at));

/** Whether two grids ask for the same notes at the same places, so that their repetitions may be put together. */
export const sameGrid = (a: Grid, b: Grid): boolean =>
  a === b ||
  (a.beatUnit === b.beatUnit &&
    a.swing === b.swing &&
    a.events.length === b.events.length &&
    a.events.every((event, k) => {
      const other = b.events[k] as GridEvent;
      return (
        event.at === other.at &&
        event.swing === other.swing &&
        event.notes.map((note) => note.from).join() === other.notes.map((note) => note.from).join()
      );
    }));
