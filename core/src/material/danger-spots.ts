import { positionsOf } from '../rhythm/grid-shape';
import { midiOf } from '../rhythm/pitch';
import { stretchAround } from '../rhythm/spot-drills';
import type { Grid, GridEvent, MethodUse } from '../schema/grid';
import type { Marks } from '../schema/notation';
import { makeReason, type Reason, type ReasonCode } from '../schema/reason';

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

/** One kind of danger: whether a step has it, and what helps. */
interface Danger {
  code: ReasonCode;
  isMet(step: Step, grid: Grid): boolean;
  values?(step: Step): Reason['values'];
  helps: MethodUse;
}

/** Every kind of danger spot, in the order of how sure they are. To add one, add it here, and its sentence in words/material-words.ts. */
const DANGERS: readonly Danger[] = [
  {
    code: 'danger-same-finger',
    isMet: (step) =>
      step.gapS < QUICK_S && same(step, 'finger') && pitchesOfEvent(step.from).join() !== pitchesOfEvent(step.to).join(),
    values: ({ to }) => ({ mark: to.notes[0]?.marks.finger ?? '' }),
    helps: { id: 'slow-quick', parameters: {} },
  },
  {
    code: 'danger-same-hand',
    isMet: (step) =>
      step.gapS < QUICK_S / 1.5 &&
      (same(step, 'stick') || (same(step, 'hand') && step.to.notes[0]?.marks.finger === undefined)),
    helps: { id: 'burst', parameters: { size: 3 } },
  },
  {
    code: 'danger-string-skipped',
    isMet: ({ from, to, gapS }) => {
      const [a, b] = [Number(from.notes[0]?.marks.string), Number(to.notes[0]?.marks.string)];
      return gapS < QUICK_S && Number.isFinite(a) && Number.isFinite(b) && Math.abs(a - b) >= 2;
    },
    helps: { id: 'long-short', parameters: { size: 2 } },
  },
  {
    code: 'danger-jump',
    isMet: ({ from, to, gapS }) => {
      const [a, b] = [pitchesOfEvent(from).at(-1), pitchesOfEvent(to).at(-1)];
      return gapS < QUICK_S && a !== undefined && b !== undefined && Math.abs(a - b) >= JUMP_SEMITONES;
    },
    values: ({ from, to }) => ({ semitones: Math.abs((pitchesOfEvent(from).at(-1) ?? 0) - (pitchesOfEvent(to).at(-1) ?? 0)) }),
    helps: { id: 'outline', parameters: {} },
  },
  {
    code: 'danger-accent-up',
    isMet: ({ to }) => to.accent && to.notes[0]?.marks.stroke === 'up',
    helps: { id: 'accents', parameters: { on: 'rotation', size: 4 } },
  },
  {
    code: 'danger-many-fingers',
    isMet: ({ from, to, gapS }) =>
      gapS < QUICK_S &&
      from.notes.length > 1 &&
      to.notes.length > 2 &&
      pitchesOfEvent(to).filter((pitch) => !pitchesOfEvent(from).includes(pitch)).length > 2,
    values: ({ to }) => ({ count: to.notes.length }),
    helps: { id: 'slow-quick', parameters: {} },
  },
  {
    code: 'danger-repeated-pitch',
    isMet: ({ from, to, gapS }, grid) =>
      gapS < QUICK_S &&
      grid.staves.length === 1 &&
      pitchesOfEvent(from).length === 1 &&
      pitchesOfEvent(from).join() === pitchesOfEvent(to).join() &&
      !grid.events.every((event) => pitchesOfEvent(event).join() === pitchesOfEvent(to).join()),
    helps: { id: 'repeat-each', parameters: { times: 2 } },
  },
  {
    code: 'danger-marked',
    isMet: ({ to }) => to.notes.some(({ marks }) => marks.difficult),
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
        why: makeReason(met.code, { from: k + 1, to: k + 2, ...met.values?.(step) }),
        drill: [{ id: 'around', parameters: stretchAround(k + 1, grid.events.length) }, met.helps],
      },
    ];
  });
};

/** The codes of every kind of danger, for those who check that each has its sentence. */
export const DANGER_CODES = DANGERS.map(({ code }) => code);
