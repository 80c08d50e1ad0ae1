import type { GridEvent } from '../schema/grid';
import type { NoteResult } from '../schema/measures';
import { chance } from '../stats/random';

const STEP_S = 0.125;

/** A simulated player of an even grid, for what repetitions say together. */
export interface MadePlayer {
  repetitions: number;
  notes: number;
  unsteadinessMs: number;
  seed: number;
  /** What is the same every time, by note. */
  habitMs?: readonly number[];
  /** How much each note's unsteadiness hangs on the one before. */
  autocorrelation?: number;
  /** Every third note unsteadiness two and a half times as much. */
  unequal?: boolean;
  driftPct?: number;
  levelDb?: (k: number) => number;
}

/** The notes of each repetition as they are after pairing: nothing missed, nothing added. */
export const madeResults = (player: MadePlayer): NoteResult[][] => {
  const {
    repetitions,
    notes,
    unsteadinessMs,
    seed,
    habitMs = [],
    autocorrelation = 0,
    unequal,
    driftPct = 0,
    levelDb,
  } = player;
  const { normal } = chance(seed);
  return Array.from({ length: repetitions }, () => {
    let unsteadiness = normal();
    return Array.from({ length: notes }, (_, index): NoteResult => {
      unsteadiness = autocorrelation * unsteadiness + Math.sqrt(1 - autocorrelation ** 2) * normal();
      const size = unequal && index % 3 === 0 ? 2.5 * unsteadinessMs : unsteadinessMs;
      const expectedS = index * STEP_S;
      const deviationMs = 20 + (habitMs[index] ?? 0) + size * unsteadiness + 10 * expectedS * driftPct;
      const level = (levelDb?.(index) ?? -20) + normal();
      return { index, expectedS, onsetS: expectedS + deviationMs / 1000, deviationMs, levelDb: level };
    });
  });
};

/** The events of a grid with the hands in turn, right first. */
export const handsInTurn = (events: readonly GridEvent[]): GridEvent[] =>
  events.map((event, k) => {
    const marks = { hand: k % 2 ? ('left' as const) : ('right' as const) };
    return { ...event, notes: event.notes.map((note) => ({ ...note, marks })) };
  });
