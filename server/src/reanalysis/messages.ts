import type { Take } from '@isochron/core/schema';

/** To the worker: one take to be measured anew. */
export interface ReanalyseRequest {
  take: Take;
  recordingPath: string;
}

/** From the worker. */
export type ReanalyseAnswer = { type: 'done'; take: Take } | { type: 'failed'; message: string };
