import type { Expectation, Heard, Onset } from '@isochron/core';

/** To the listening worker. */
export type ToListener =
  | { type: 'open'; sampleRateHz: number; takeId: string; records: boolean; blocks: MessagePort }
  | { type: 'expect'; expectation: Expectation }
  | { type: 'cancel' }
  | { type: 'tap'; onset: Onset }
  | { type: 'release'; pitch: number; timeS: number }
  /** Store what is left; answered by `closed`. */
  | { type: 'close' };

/** From the listening worker. */
export type FromListener =
  | { type: 'started'; frame: number }
  | { type: 'heard'; heard: Heard }
  /** The loudest sample of the last tenth of a second, in dBFS. */
  | { type: 'level'; peakDb: number }
  | { type: 'trouble'; message: string }
  | { type: 'closed' };
