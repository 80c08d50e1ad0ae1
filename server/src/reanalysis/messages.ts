import type { Exercise, Take } from '@isochron/core';

/** To the worker: one take to be measured anew. */
export interface ReanalyseRequest {
  take: Take;
  exercise: Exercise;
  recordingPath: string;
}

/** From the worker. */
export type ReanalyseAnswer = { type: 'done'; take: Take } | { type: 'failed'; message: string };
