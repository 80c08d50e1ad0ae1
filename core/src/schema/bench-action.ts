import { z } from 'zod';

/** What can be done on the Bench without a hand on the mouse. */
export const BENCH_ACTIONS = [
  'begin',
  'stop',
  'again',
  'faster',
  'slower',
  'easy',
  'working',
  'tense',
  'pain',
  'next',
  'before',
  'finish',
  'afterBreak',
] as const;
export const BenchActionSchema = z.enum(BENCH_ACTIONS);
export type BenchAction = z.infer<typeof BenchActionSchema>;

/**
 * Keys of the player's own, besides the usual ones: `KeyboardEvent.key`, or `midi 60` for a key and `pedal 64` for a controller of a MIDI
 * instrument.
 */
export const OwnKeysSchema = z.partialRecord(BenchActionSchema, z.string().min(1).max(40));
export type OwnKeys = z.infer<typeof OwnKeysSchema>;
