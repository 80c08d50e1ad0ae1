import { closeSync, fstatSync, openSync, readSync } from 'node:fs';
import { parentPort } from 'node:worker_threads';
import { type ByteSource, openWav, reanalyseTake } from '@isochron/core';
import type { ReanalyseAnswer, ReanalyseRequest } from './messages';

/** A file's bytes by parts, so that hours of sound need no more memory than a bar. */
const bytesOf = (handle: number): ByteSource => ({
  size: fstatSync(handle).size,
  read(from, to) {
    const bytes = new Uint8Array(to - from);
    return bytes.subarray(0, readSync(handle, bytes, 0, bytes.length, from));
  },
});

/** Measures takes anew, one after the other, away from the thread that answers the browser. */
parentPort?.on('message', ({ take, recordingPath }: ReanalyseRequest) => {
  let answer: ReanalyseAnswer;
  let handle: number | null = null;
  try {
    handle = openSync(recordingPath, 'r');
    answer = { type: 'done', take: reanalyseTake(take, openWav(bytesOf(handle))) };
  } catch (error) {
    answer = { type: 'failed', message: (error as Error).message };
  } finally {
    if (handle !== null) closeSync(handle);
  }
  parentPort?.postMessage(answer);
});
