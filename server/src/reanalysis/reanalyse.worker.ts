import { readFileSync } from 'node:fs';
import { parentPort } from 'node:worker_threads';
import { readWav, reanalyseTake } from '@isochron/core';
import type { ReanalyseAnswer, ReanalyseRequest } from './messages';

/** Measures takes anew, one after the other, away from the thread that answers the browser. */
parentPort?.on('message', ({ take, recordingPath }: ReanalyseRequest) => {
  let answer: ReanalyseAnswer;
  try {
    answer = { type: 'done', take: reanalyseTake(take, readWav(readFileSync(recordingPath))) };
  } catch (error) {
    answer = { type: 'failed', message: (error as Error).message };
  }
  parentPort?.postMessage(answer);
});
