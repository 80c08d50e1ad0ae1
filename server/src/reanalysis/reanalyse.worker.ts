import { closeSync, openSync } from 'node:fs';
import { parentPort } from 'node:worker_threads';
import { reanalyseTake } from '@isochron/core/analysis';
import { openWav } from '@isochron/core/material';
import { fileBytes } from './file-bytes';
import type { ReanalyseAnswer, ReanalyseRequest } from './messages';

/** Measures takes anew, one after the other, away from the thread that answers the browser. */
parentPort?.on('message', ({ take, recordingPath }: ReanalyseRequest) => {
  let answer: ReanalyseAnswer;
  let handle: number | null = null;
  try {
    handle = openSync(recordingPath, 'r');
    answer = { type: 'done', take: reanalyseTake(take, openWav(fileBytes(handle))) };
  } catch (error) {
    answer = { type: 'failed', message: (error as Error).message };
  } finally {
    if (handle !== null) closeSync(handle);
  }
  parentPort?.postMessage(answer);
});
