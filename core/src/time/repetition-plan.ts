import { beats, beatsNumber } from '../rhythm/beats';
import { barBeats, inOrder, lengthBeats } from '../rhythm/exercise-shape';
import type { Exercise } from '../schema/exercise';
import type { Click } from './click';
import { beatS } from './tempo';

/** One note as it should sound. */
export interface ExpectedNote {
  index: number;
  /** Time of the gridline, on the same clock as the plan. */
  timeS: number;
  /** Position from the first downbeat, in beats. */
  beat: number;
  /** Notated distance to the next note (for the last one: from the note before), in seconds. */
  intervalS: number;
  accent: boolean;
}

/** Everything that a repetition will be: when it is counted in, clicked and played. Times share one clock. */
export interface RepetitionPlan {
  tempoBpm: number;
  countInStartS: number;
  /** The first downbeat, beat 0. */
  downbeatS: number;
  /** End of the last bar. */
  endS: number;
  clicks: Click[];
  notes: ExpectedNote[];
}

/** Count-in divisions closer together than this blur into a buzz; they are then counted in twice their value. */
const SHORTEST_DIVISION_S = 0.12;

/**
 * How many clicks to a beat the count-in has: as many as the first note's value divides it into, halved while they
 * would come faster than one can count.
 */
export const countInDivisions = (exercise: Exercise, tempoBpm: number): number => {
  const [first] = inOrder(exercise.events);
  if (!first) return 1;
  const perBeat = Math.round(1 / beatsNumber(first.length));
  let divisions = perBeat >= 2 && perBeat <= 8 ? perBeat : 1;
  while (divisions > 1 && beatS(tempoBpm) / divisions < SHORTEST_DIVISION_S) {
    divisions = divisions % 2 === 0 ? divisions / 2 : 1;
  }
  return divisions;
};

/** The expected notes of an exercise at a tempo, the first downbeat at `downbeatS`, in order of time. */
export const expectedNotes = (exercise: Exercise, tempoBpm: number, downbeatS: number): ExpectedNote[] => {
  const sorted = inOrder(exercise.events);
  const positions = sorted.map((event) => beatsNumber(event.at));
  return sorted.map((event, index) => {
    const beat = positions[index] as number;
    const next = positions[index + 1];
    const before = positions[index - 1];
    const gapBeats = next !== undefined ? next - beat : before !== undefined ? beat - before : 1;
    return {
      index,
      timeS: downbeatS + beat * beatS(tempoBpm),
      beat,
      intervalS: gapBeats * beatS(tempoBpm),
      accent: event.accent ?? false,
    };
  });
};

/**
 * Plans one repetition: `countInBars` bars of count-in from `startS`, clicked in the value of the first note, then the
 * exercise with a click on every beat. A pickup sounds inside the last bar of the count-in, whose divisions stop where
 * the pickup begins: from there on the player is the one who divides the beat.
 */
export const planRepetition = (options: {
  exercise: Exercise;
  tempoBpm: number;
  startS: number;
  countInBars: number;
}): RepetitionPlan => {
  const { exercise, tempoBpm, startS, countInBars } = options;
  const perBar = barBeats(exercise).valueOf();
  const beat = beatS(tempoBpm);
  const countBeats = countInBars * perBar;
  const downbeatS = startS + countBeats * beat;
  const pickupBeats = beats(exercise.pickup).valueOf();
  const divisions = countInDivisions(exercise, tempoBpm);
  const barStarts = (position: number) => Math.abs(position / perBar - Math.round(position / perBar)) < 1e-9;

  const clicks: Click[] = [];
  for (let tick = 0; tick < Math.round(countBeats * divisions); tick += 1) {
    const position = tick / divisions - countBeats;
    const onBeat = tick % divisions === 0;
    if (!onBeat && position > -pickupBeats - 1e-9 && pickupBeats > 0) continue;
    const kind = !onBeat ? 'division' : barStarts(position) ? 'bar' : 'beat';
    clicks.push({ timeS: downbeatS + position * beat, kind });
  }
  const total = lengthBeats(exercise).valueOf();
  for (let position = 0; position < total - 1e-9; position += 1) {
    clicks.push({ timeS: downbeatS + position * beat, kind: barStarts(position) ? 'bar' : 'beat' });
  }
  return {
    tempoBpm,
    countInStartS: startS,
    downbeatS,
    endS: downbeatS + total * beat,
    clicks,
    notes: expectedNotes(exercise, tempoBpm, downbeatS),
  };
};
