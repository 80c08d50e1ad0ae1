/**
 * What versions 1 and 2 stored, as far as the migration reads it, and how it is written down now. Frozen: nothing here follows
 * later changes of core.
 */

/** A fraction of a beat as text: "3/2". */
type Beats = string;

export interface OldEvent {
  at: Beats;
  length: Beats;
  pitches: number[];
  accent?: boolean;
  hand?: 'left' | 'right';
  hands?: ('left' | 'right')[];
  finger?: string;
}

export interface OldExercise {
  id: string;
  title: string;
  about: string;
  meter: { count: number; unit: number };
  beatUnit: Beats;
  pickup: Beats;
  bars: number;
  events: OldEvent[];
  goalBpm: number;
}

export interface OldRepetition {
  index: number;
  tempoBpm: number;
  downbeatS: number;
  notes: { expectedS: number }[];
  verdict: { outcome: string; reason: string; sentence: string };
  decision: { action: string; nextTempoBpm: number; reason: string; overruled: boolean };
  [rest: string]: unknown;
}

const STEPS = ['C', 'C#', 'D', 'D#', 'E', 'F', 'F#', 'G', 'G#', 'A', 'A#', 'B'] as const;
const pitchOf = (midi: number) => {
  const name = STEPS[midi % 12] as string;
  return { step: name[0], alter: name.length - 1, octave: Math.floor(midi / 12) - 1 };
};

const numberOf = (beats: Beats): number => {
  const [above = 0, below = 1] = beats.split('/').map(Number);
  return above / below;
};

const sorted = (events: readonly OldEvent[]) => [...events].sort((a, b) => numberOf(a.at) - numberOf(b.at));

/** Events at one position become one, as they must be now; a pitch is a note of its own, with an id that stays. */
const notesOf = (exercise: OldExercise) => {
  let count = 0;
  return sorted(exercise.events).map((event) => ({
    event,
    notes: (event.pitches.length ? event.pitches : [null]).map((midi, k) => {
      count += 1;
      const hand = event.hands?.[k] ?? event.hand;
      const marks = { ...(hand ? { hand } : {}), ...(event.finger ? { finger: event.finger } : {}) };
      return { id: `n${count}`, pitch: midi === null ? null : pitchOf(midi), marks };
    }),
  }));
};

const frameOf = ({ beatUnit, pickup, meter, bars, events }: OldExercise) => {
  const pitches = events.flatMap((event) => event.pitches);
  const isLow = pitches.length > 0 && pitches.reduce((sum, one) => sum + one, 0) / pitches.length < 58;
  return {
    beatUnit,
    pickup,
    meters: [{ at: '0', count: meter.count, unit: meter.unit }],
    keys: [{ at: '0', fifths: 0 }],
    staves: [{ clef: isLow ? 'bass' : 'treble' }],
    bars,
  };
};

/** An exercise as a passage with its marks as the first variant. */
export const passageFrom = (exercise: OldExercise) => {
  const events = notesOf(exercise);
  const marks = Object.fromEntries(
    events.flatMap(({ notes }) => notes.flatMap((note) => (Object.keys(note.marks).length ? [[note.id, note.marks]] : []))),
  );
  return {
    id: exercise.id,
    revision: 1,
    title: exercise.title,
    about: exercise.about,
    ...frameOf(exercise),
    notes: events.flatMap(({ event, notes }) =>
      notes.map(({ id, pitch }) => ({
        id,
        at: event.at,
        length: event.length,
        pitch,
        staff: 1,
        voice: 1,
        ...(event.accent ? { accent: true } : {}),
      })),
    ),
    variants: Object.keys(marks).length ? [{ id: 'first', name: 'as marked', marks }] : [],
    sections: [],
    firstBarNumber: 1,
    goalBpm: exercise.goalBpm,
  };
};

type OldGridEvent = { at: Beats; length: Beats; accent: boolean; notes: object[] };

const eventsOf = (exercise: OldExercise): OldGridEvent[] => {
  const merged: OldGridEvent[] = [];
  for (const { event, notes } of notesOf(exercise)) {
    const own = notes.map(({ id, pitch, marks }) => ({ from: id, pitch, length: event.length, staff: 1, voice: 1, marks }));
    const before = merged.at(-1);
    if (before && numberOf(before.at) === numberOf(event.at)) before.notes.push(...own);
    else merged.push({ at: event.at, length: event.length, accent: event.accent ?? false, notes: own });
  }
  return merged;
};

const beatsAt = ({ notes, downbeatS, tempoBpm }: OldRepetition) =>
  notes.map((note) => ((note.expectedS - downbeatS) * tempoBpm) / 60);

const SAME_BEAT = 0.002;

/** The fraction nearest a position, with a denominator that music has. */
const fractionNear = (beat: number): Beats => {
  for (const below of [1, 2, 3, 4, 6, 8, 12, 16, 24, 32, 48]) {
    const above = Math.round(beat * below);
    if (Math.abs(beat - above / below) < SAME_BEAT) return below === 1 ? `${above}` : `${above}/${below}`;
  }
  return `${Math.round(beat * 960)}/960`;
};

/**
 * The grid that a take played. Where its exercise was edited since, the notes that were stored with the take rule: their places
 * are what was asked for, and pitches are taken from the exercise where it still has a note at that place.
 */
const gridEvents = (exercise: OldExercise, repetition: OldRepetition | undefined): OldGridEvent[] => {
  const events = eventsOf(exercise);
  if (!repetition) return events;
  const asked = beatsAt(repetition);
  const isAsItWas =
    asked.length === events.length && asked.every((beat, k) => Math.abs(beat - numberOf(events[k]?.at ?? '')) < SAME_BEAT);
  if (isAsItWas) return events;
  return asked.map((beat, k) => {
    const found = events.find((event) => Math.abs(numberOf(event.at) - beat) < SAME_BEAT);
    const next = asked[k + 1];
    const length = found?.length ?? fractionNear(next === undefined ? 1 : next - beat);
    const unknown = { from: `x${k + 1}`, pitch: null, length, staff: 1, voice: 1, marks: {} };
    return { at: fractionNear(beat), length, accent: found?.accent ?? false, notes: found?.notes ?? [unknown] };
  });
};

/** What a take played, as a drill: as notated, a click on every beat. */
export const drillFrom = (exercise: OldExercise, repetition: OldRepetition | undefined, withoutClick: boolean) => {
  const events = gridEvents(exercise, repetition);
  const end = Math.max(...events.map((event) => numberOf(event.at) + numberOf(event.length)));
  const barBeats = exercise.meter.count / exercise.meter.unit / numberOf(exercise.beatUnit);
  return {
    method: { id: 'straight', parameters: {} },
    grid: { ...frameOf(exercise), bars: Math.max(exercise.bars, Math.ceil(end / barBeats - 1e-9)), events },
    click: { kind: withoutClick ? 'none' : 'beat', divisions: 2, countInBars: 1 },
    judging: { leftOut: [] },
    purpose: { code: 'straight', values: {} },
  };
};

const asWritten = (words: string) => ({ code: 'as-written', values: {}, words });
const constant = (bpm: number) => ({ kind: 'constant', bpm });

/** A repetition as it is written now: every figure as it was, every sentence as it was written. */
export const repetitionFrom = ({ tempoBpm, verdict, decision, ...rest }: OldRepetition) => ({
  ...rest,
  drill: 0,
  tempo: constant(tempoBpm),
  verdict: { outcome: verdict.outcome, reason: verdict.reason, why: asWritten(verdict.sentence) },
  decision: {
    action: decision.action,
    tempo: constant(decision.nextTempoBpm),
    why: asWritten(decision.reason),
    overruled: decision.overruled,
  },
});

interface OldClosing {
  bestCleanBpm: number | null;
  closingBpm: number;
  nextStartBpm: number;
  nextStartReason: string;
}

/** What a take left for another day. Tempos are put into the range that is kept now. */
export const closingFrom = (closing: OldClosing | null) => {
  if (!closing) return null;
  const inRange = (bpm: number) => Math.min(400, Math.max(10, bpm));
  return {
    bestCleanBpm: closing.bestCleanBpm === null ? null : inRange(closing.bestCleanBpm),
    closingBpm: inRange(closing.closingBpm),
    nextStartBpm: inRange(closing.nextStartBpm),
    nextStartWhy: asWritten(closing.nextStartReason),
  };
};
