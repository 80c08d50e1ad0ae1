import type { Exercise, NoteEvent } from '../schema/exercise';
import { beats, writeBeats } from './beats';

/** Notes of equal length from `at` on, one pitch each. */
const run = (at: string, each: string, pitches: number[]): NoteEvent[] =>
  pitches.map((pitch, k) => ({ at: writeBeats(beats(at).add(beats(each).mul(k))), length: each, pitches: [pitch] }));

/** One note. */
const note = (at: string, length: string, pitch: number): NoteEvent => ({ at, length, pitches: [pitch] });

const fingered = (events: NoteEvent[], fingers: string): NoteEvent[] =>
  events.map((event, k) => ({ ...event, finger: fingers[k] as string }));

const sticked = (events: NoteEvent[]): NoteEvent[] =>
  events.map((event, k) => ({ ...event, hand: k % 2 === 0 ? ('right' as const) : ('left' as const) }));

/** The same notes in both hands, an octave apart. */
const together = (events: NoteEvent[]): NoteEvent[] =>
  events.map((event) => ({
    ...event,
    pitches: event.pitches.flatMap((pitch) => [pitch - 12, pitch]),
    hands: ['left', 'right'],
  }));

const quarters = { meter: { count: 4, unit: 4 as const }, beatUnit: '1/4' };

/**
 * The exercises that ship with the app: small, common figures written for it. Each ends on a note of at least one
 * beat, so that the decision is there before the rest bar begins.
 */
export const READY_EXERCISES: readonly Exercise[] = [
  {
    ...quarters,
    id: 'five-steps',
    title: 'Five steps and back',
    about: 'Up and down five neighbouring notes, four to the beat, ending on a long note. Watch the turn at the top.',
    pickup: '0',
    bars: 2,
    goalBpm: 120,
    events: fingered(
      [...run('0', '1/4', [60, 62, 64, 65, 67, 65, 64, 62, 60, 62, 64, 65, 67, 65, 64, 62]), note('4', '2', 60)],
      '12345432123454321',
    ),
  },
  {
    ...quarters,
    id: 'rolling-threes',
    title: 'Rolling threes',
    about:
      'Three notes to the beat, climbing by a step each beat. Sticks alternate, so the leading hand changes on every beat.',
    pickup: '0',
    bars: 2,
    goalBpm: 132,
    events: sticked([
      ...run('0', '1/3', [62, 66, 69, 64, 67, 71, 66, 69, 73, 64, 67, 71]),
      ...run('4', '1/3', [62, 66, 69, 64, 67, 71]),
      note('6', '1', 62),
    ]),
  },
  {
    ...quarters,
    id: 'long-short-walk',
    title: 'Long-short walk',
    about: 'Long and short notes, three to one, down a scale. The short note likes to come early and turn into a triplet.',
    pickup: '0',
    bars: 2,
    goalBpm: 96,
    events: [
      ...[72, 71, 69, 67, 65, 64].flatMap((pitch, k, scale) => [
        note(writeBeats(beats(k)), '3/4', pitch),
        note(writeBeats(beats(k).add('3/4')), '1/4', scale[k + 1] ?? 62),
      ]),
      note('6', '1', 60),
    ],
  },
  {
    ...quarters,
    id: 'hands-together',
    title: 'Hands together',
    about:
      'Both hands in octaves, two to the beat. With a MIDI instrument the hands are told apart: which one leads, and by how much.',
    pickup: '0',
    bars: 2,
    goalBpm: 120,
    events: together([...run('0', '1/2', [60, 64, 67, 64, 62, 65, 69, 65, 64, 67, 71, 67]), note('6', '2', 60)]),
  },
  {
    ...quarters,
    id: 'in-on-the-upbeat',
    title: 'In on the upbeat',
    about: 'Two notes to the beat, beginning on the last upbeat of the count-in and leaning over each bar line.',
    pickup: '1/2',
    bars: 2,
    goalBpm: 144,
    events: [...run('-1/2', '1/2', [67, 72, 71, 69, 67, 65, 64, 62, 64, 60, 62, 64, 65]), note('6', '1', 67)],
  },
];

/** A ready exercise by its id, or undefined. */
export const readyExercise = (id: string): Exercise | undefined => READY_EXERCISES.find((exercise) => exercise.id === id);
