import { positionsOf } from '../rhythm/grid-shape';
import { midiOf } from '../rhythm/pitch';
import { stretchAround } from '../rhythm/spot-drills';
import type { Grid, GridEvent, MethodUse } from '../schema/grid';
import type { Marks } from '../schema/notation';
import { makeReason, type Reason } from '../schema/reason';

/** A place where it may go wrong, told from notes and marks alone, and the drill that suits it. */
export interface DangerSpot {
  /** The event at which it is met; the step leads from the one before it. */
  index: number;
  why: Reason;
  drill: MethodUse[];
}

/** What is known of the step from one event to the next. */
interface Step {
  from: GridEvent;
  to: GridEvent;
  index: number;
  /** Seconds from one to the other at the tempo that is aimed at. */
  gapS: number;
}

/** A step slower than this gives the hand time, whatever it has to do (common practice, no source). */
const QUICK_S = 0.25;
/** A jump of so many semitones takes the hand from its place. */
const JUMP_SEMITONES = 9;

const pitchesOfEvent = ({ notes }: GridEvent) => notes.flatMap(({ pitch }) => (pitch ? [midiOf(pitch)] : []));

const same = <Kind extends keyof Marks>({ from, to }: Step, kind: Kind): boolean => {
  const mark = from.notes[0]?.marks[kind];
  return mark !== undefined && to.notes[0]?.marks[kind] === mark;
};

const fromTo = ({ index }: Step) => ({ from: index, to: index + 1 });

/** One kind of danger: whether a step has it, and what helps. */
interface Danger {
  isMet(step: Step, grid: Grid): boolean;
  why(step: Step): Reason;
  helps: MethodUse;
}

/** Every kind of danger spot, in the order of how sure they are. To add one, add it here, and its sentence in words/material-words.ts. */
const DANGERS: readonly Danger[] = [
  {
    isMet: (step) =>
      step.gapS < QUICK_S && same(step, 'finger') && pitchesOfEvent(step.from).join() !== pitchesOfEvent(step.to).join(),
    why: (step) => makeReason('danger-same-finger', { ...fromTo(step), mark: step.to.notes[0]?.marks.finger ?? '' }),
    helps: { id: 'slow-quick', parameters: {} },
  },
  {
    isMet: (step) =>
      step.gapS < QUICK_S / 1.5 &&
      (same(step, 'stick') || (same(step, 'hand') && step.to.notes[0]?.marks.finger === undefined)),
    why: (step) => makeReason('danger-same-hand', fromTo(step)),
    helps: { id: 'burst', parameters: { size: 3 } },
  },
  {
    isMet: ({ from, to, gapS }) => {
      const [a, b] = [Number(from.notes[0]?.marks.string), Number(to.notes[0]?.marks.string)];
      return gapS < QUICK_S && Number.isFinite(a) && Number.isFinite(b) && Math.abs(a - b) >= 2;
    },
    why: (step) => makeReason('danger-string-skipped', fromTo(step)),
    helps: { id: 'long-short', parameters: { size: 2 } },
  },
  {
    isMet: ({ from, to, gapS }) => {
      const [a, b] = [pitchesOfEvent(from).at(-1), pitchesOfEvent(to).at(-1)];
      return gapS < QUICK_S && a !== undefined && b !== undefined && Math.abs(a - b) >= JUMP_SEMITONES;
    },
    why: (step) =>
      makeReason('danger-jump', {
        ...fromTo(step),
        semitones: Math.abs((pitchesOfEvent(step.from).at(-1) ?? 0) - (pitchesOfEvent(step.to).at(-1) ?? 0)),
      }),
    helps: { id: 'outline', parameters: {} },
  },
  {
    isMet: ({ to }) => to.accent && to.notes[0]?.marks.stroke === 'up',
    why: (step) => makeReason('danger-accent-up', { to: step.index + 1 }),
    helps: { id: 'accents', parameters: { on: 'rotation', size: 4 } },
  },
  {
    isMet: ({ from, to, gapS }) =>
      gapS < QUICK_S &&
      from.notes.length > 1 &&
      to.notes.length > 2 &&
      pitchesOfEvent(to).filter((pitch) => !pitchesOfEvent(from).includes(pitch)).length > 2,
    why: (step) => makeReason('danger-many-fingers', fromTo(step)),
    helps: { id: 'slow-quick', parameters: {} },
  },
  {
    isMet: ({ from, to, gapS }, grid) =>
      gapS < QUICK_S &&
      grid.staves.length === 1 &&
      pitchesOfEvent(from).length === 1 &&
      pitchesOfEvent(from).join() === pitchesOfEvent(to).join() &&
      !grid.events.every((event) => pitchesOfEvent(event).join() === pitchesOfEvent(to).join()),
    why: (step) => makeReason('danger-repeated-pitch', { to: step.index + 1 }),
    helps: { id: 'repeat-each', parameters: { times: 2 } },
  },
  {
    isMet: ({ to }) => to.notes.some(({ marks }) => marks.difficult),
    why: (step) => makeReason('danger-marked', { to: step.index + 1 }),
    helps: { id: 'add-a-note', parameters: {} },
  },
];

/**
 * Where a grid may go wrong at a tempo, told before a note was played: from its notes and marks alone. Each with a drill for those few
 * notes. One kind at a place is enough: the surest is told.
 */
export const dangerSpots = (grid: Grid, tempoBpm: number): DangerSpot[] => {
  const positions = positionsOf(grid);
  return grid.events.slice(1).flatMap((to, k): DangerSpot[] => {
    const gapS = (((positions[k + 1] as number) - (positions[k] as number)) * 60) / tempoBpm;
    const step: Step = { from: grid.events[k] as GridEvent, to, index: k + 1, gapS };
    const met = DANGERS.find((danger) => danger.isMet(step, grid));
    if (!met) return [];
    return [
      {
        index: k + 1,
        why: met.why(step),
        drill: [{ id: 'around', parameters: stretchAround(k + 1, grid.events.length) }, met.helps],
      },
    ];
  });
};
