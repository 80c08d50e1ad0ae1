import { bisectRight, group } from 'd3-array';
import { positionsOf } from '../rhythm/grid-shape';
import { midiOf } from '../rhythm/pitch';
import { stretchAround } from '../rhythm/spot-drills';
import { barStarts } from '../schema/frame';
import type { Grid, GridEvent, GridNote, MethodUse } from '../schema/grid';
import type { MusicalInstrument } from '../schema/instrument';
import type { Marks } from '../schema/notation';
import { makeReason, type Reason } from '../schema/reason';
import { handMove, stringOf } from './hand-moves';
import { instrumentOf } from './instruments';

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
/** A finger that plucks twice, or a bow that crosses there and back, has less: its own way is short. */
const VERY_QUICK_S = QUICK_S / 1.5;
/** So many semitones along a string, and the hand has to let go and find its new place. */
const SHIFT_SEMITONES = 3;
/** What more than this share of the notes does is how the passage goes, not a spot in it. */
const USUAL_SHARE = 1 / 3;
/** Double strokes are an exercise of their own sooner: two in a paradiddle's eight strokes are meant. */
const DOUBLES_SHARE = 1 / 8;
/** Thumb, index, middle, ring and little finger, as plucking fingers are written. */
const PLUCKING = /^[pimcat]$/;
const ROLL = /^[pimcat]( [pimcat]){3,}$/;

const pitchesOfEvent = ({ notes }: GridEvent) => notes.flatMap(({ pitch }) => (pitch ? [midiOf(pitch)] : []));

/** A note and the one before it of the same staff: what one hand, or the only line, does from one event to the next. */
const lines = ({ from, to }: Pick<Step, 'from' | 'to'>): [from: GridNote, to: GridNote][] =>
  to.notes.flatMap((note): [GridNote, GridNote][] => {
    const before = from.notes.filter(({ staff }) => staff === note.staff);
    const [only] = before;
    // Of chords it is not known which note goes where.
    return only && before.length === 1 && to.notes.filter(({ staff }) => staff === note.staff).length === 1
      ? [[only, note]]
      : [];
  });

const pitchName = ({ pitch }: GridNote) => (pitch ? midiOf(pitch) : null);

/** The note that keeps its finger, or its stick, while it goes to another pitch, or to any. */
const keeping = (step: Step, kind: keyof Marks, toAnotherPitch: boolean): GridNote | null =>
  lines(step).find(
    ([from, to]) =>
      from.marks[kind] !== undefined &&
      from.marks[kind] === to.marks[kind] &&
      (!toAnotherPitch || pitchName(from) !== pitchName(to)),
  )?.[1] ?? null;

const movedBy = (step: Step, { instrument }: Surroundings): number =>
  Math.max(0, ...lines(step).map(([from, to]) => handMove(from, to, instrument)));

/** Whether the bow leaves a string for one note and comes straight back. */
const crossesAndReturns = (index: number, { grid, instrument }: Surroundings): boolean => {
  const [before, alone, after] = [index - 1, index, index + 1].map((k) => {
    const notes = grid.events[k]?.notes;
    return notes?.length === 1 ? stringOf(notes[0] as GridNote, instrument) : null;
  });
  return before != null && alone != null && before === after && alone !== before;
};

const fromTo = ({ index }: Step) => ({ from: index, to: index + 1 });

/** The plucking fingers of each bar, and the event that it begins with. */
const rollsOf = (grid: Grid): { first: number; fingers: string }[] => {
  const positions = positionsOf(grid);
  const starts = barStarts(grid).map((start) => start.valueOf());
  const bars = group(grid.events.keys(), (k) => bisectRight(starts, positions[k] as number));
  return [...bars.values()].map((own) => ({
    first: own[0] as number,
    fingers: own.map((k) => grid.events[k]?.notes[0]?.marks.finger ?? '').join(' '),
  }));
};

/** What a step stands in. */
interface Surroundings {
  grid: Grid;
  instrument: MusicalInstrument;
  /** The plucking fingers of its bars, by the event that each begins with; its neighbours are the bars before. */
  rolls: ReturnType<typeof rollsOf>;
}

/** One kind of danger: whether a step has it, and what helps. */
interface Danger {
  isMet(step: Step, around: Surroundings): boolean;
  why(step: Step, around: Surroundings): Reason;
  helps: MethodUse;
  /** The share of the notes from which on it is how the passage goes, where that is another than most have; 1 for never. */
  usualShare?: number;
}

/** Every kind of danger spot, in the order of how sure they are. To add one, add it here, and its sentence in words/material-words.ts. */
const DANGERS: readonly Danger[] = [
  {
    isMet: (step) => step.gapS < VERY_QUICK_S && PLUCKING.test(keeping(step, 'finger', false)?.marks.finger ?? ''),
    why: (step) =>
      makeReason('danger-plucked-twice', { ...fromTo(step), mark: keeping(step, 'finger', false)?.marks.finger ?? '' }),
    helps: { id: 'slow-quick', parameters: {} },
  },
  {
    isMet: (step) => {
      const finger = keeping(step, 'finger', true)?.marks.finger;
      return step.gapS < QUICK_S && finger !== undefined && !PLUCKING.test(finger);
    },
    why: (step) =>
      makeReason('danger-same-finger', { ...fromTo(step), mark: keeping(step, 'finger', true)?.marks.finger ?? '' }),
    helps: { id: 'slow-quick', parameters: {} },
  },
  {
    isMet: (step) => {
      const twice = keeping(step, 'stick', false) ?? keeping(step, 'hand', false);
      // Where fingers are written the hand plays on by itself.
      return step.gapS < VERY_QUICK_S && twice !== null && twice.marks.finger === undefined;
    },
    usualShare: DOUBLES_SHARE,
    why: (step) => makeReason('danger-same-hand', fromTo(step)),
    helps: { id: 'burst', parameters: { size: 3 } },
  },
  {
    isMet: (step, { rolls }) => {
      const bar = rolls.findIndex(({ first }) => first === step.index);
      const [now, before, earlier] = [rolls[bar], rolls[bar - 1], rolls[bar - 2]];
      const isRoll = [now, before].every((roll) => ROLL.test(roll?.fingers ?? ''));
      // A roll is one where it was played before.
      return step.gapS < QUICK_S && isRoll && before?.fingers === earlier?.fingers && now?.fingers !== before?.fingers;
    },
    why: (step) => makeReason('danger-roll-changes', { to: step.index + 1 }),
    helps: { id: 'add-a-note', parameters: {} },
  },
  {
    isMet: ({ from, to, gapS }, { instrument }) => {
      const [a, b] = [from, to].map(({ notes }) =>
        notes[0]?.marks.string ? (stringOf(notes[0], instrument) ?? Number(notes[0].marks.string)) : null,
      );
      return gapS < QUICK_S && a != null && b != null && Math.abs(a - b) >= 2;
    },
    why: (step) => makeReason('danger-string-skipped', fromTo(step)),
    helps: { id: 'long-short', parameters: { size: 2 } },
  },
  {
    isMet: ({ index, gapS }, around) =>
      gapS < VERY_QUICK_S && around.instrument.profileId === 'bowed' && crossesAndReturns(index, around),
    why: (step) => makeReason('danger-crossing', { to: step.index + 1 }),
    helps: { id: 'long-short', parameters: { size: 2 } },
  },
  {
    isMet: (step, around) =>
      step.gapS < QUICK_S && movedBy(step, around) >= (around.instrument.strings.length > 0 ? SHIFT_SEMITONES : 1),
    why: (step, around) =>
      makeReason(around.instrument.strings.length > 0 ? 'danger-shift' : 'danger-jump', {
        ...fromTo(step),
        semitones: movedBy(step, around),
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
    isMet: ({ from, to, gapS }, { grid }) =>
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
    usualShare: 1,
  },
];

/**
 * Where a grid may go wrong at a tempo, told before a note was played: from its notes, its marks, and what the hands do on the instrument.
 * Each with a drill for those few notes. One kind at a place is enough: the surest is told; what most of the notes do is not.
 */
export const dangerSpots = (
  grid: Grid,
  tempoBpm: number,
  instrument: MusicalInstrument = instrumentOf('any'),
): DangerSpot[] => {
  const positions = positionsOf(grid);
  const around: Surroundings = { grid, instrument, rolls: rollsOf(grid) };
  const steps = grid.events.slice(1).map((to, k): Step => {
    const gapS = (((positions[k + 1] as number) - (positions[k] as number)) * 60) / tempoBpm;
    return { from: grid.events[k] as GridEvent, to, index: k + 1, gapS };
  });
  const told = DANGERS.flatMap((danger) => {
    const met = new Set(steps.filter((step) => danger.isMet(step, around)));
    return met.size <= Math.max(1, (danger.usualShare ?? USUAL_SHARE) * steps.length) ? [{ danger, met }] : [];
  });
  return steps.flatMap((step): DangerSpot[] => {
    const surest = told.find(({ met }) => met.has(step))?.danger;
    if (!surest) return [];
    const { index } = step;
    return [
      {
        index,
        why: surest.why(step, around),
        drill: [{ id: 'around', parameters: stretchAround(index, grid.events.length) }, surest.helps],
      },
    ];
  });
};
