import { Worker } from 'node:worker_threads';
import { ENGINE_VERSION, type Reanalysis, type Take } from '@isochron/core';
import { Op } from 'sequelize';
import type { Store } from '../database/open';
import { getRecording } from '../recordings';
import { readTake, replaceAnalysis } from '../takes';
import type { ReanalyseAnswer, ReanalyseRequest } from './messages';

/** The re-analysis of stored takes: one at a time, in a worker thread. */
export interface Reanalyser {
  state(): Promise<Reanalysis>;
  /** Begins with all takes that are due, or with one, whatever engine measured it. Does nothing while it runs. */
  start(takeId?: string): Promise<void>;
  /** Stops; what is done stays done. */
  cancel(): Promise<void>;
}

/** Runs one request in the worker. Settles with the take, or with null where the worker was stopped. */
const ask = (worker: Worker, request: ReanalyseRequest): Promise<Take | null> =>
  new Promise((resolve, reject) => {
    const settle = (finish: () => void) => {
      worker.removeAllListeners();
      finish();
    };
    worker.once('message', (answer: ReanalyseAnswer) =>
      settle(() => (answer.type === 'done' ? resolve(answer.take) : reject(new Error(answer.message)))),
    );
    worker.once('error', (error) => settle(() => reject(error)));
    worker.once('exit', () => settle(() => resolve(null)));
    worker.postMessage(request);
  });

/** Makes a {@link Reanalyser} over a store. */
export const createReanalyser = (store: Store): Reanalyser => {
  const { models } = store;
  let worker: Worker | null = null;
  let running: Promise<void> = Promise.resolve();
  let cancelled = false;
  let done = 0;
  let of = 0;
  let message = '';

  const due = { hasRecording: true, engine: { [Op.ne]: ENGINE_VERSION } };
  const dueIds = async (): Promise<string[]> =>
    (await models.takes.findAll({ attributes: ['id'], where: due })).map((row) => row.get('id') as string);

  /** Measures one take anew; once more where it was changed meanwhile, so that no correction is lost. */
  const reanalyse = async (thread: Worker, id: string): Promise<void> => {
    for (let isStored = false; !isStored; ) {
      const found = await readTake(store, id);
      const recording = await getRecording(store, id);
      // A thread that was stopped meanwhile would never answer.
      if (cancelled || !found || !recording) return;
      if (found.leftOut > 0) throw new Error('a part of it cannot be read.');
      const after = await ask(thread, { take: found.take, recordingPath: recording.path });
      isStored = after === null || (await replaceAnalysis(store, found.take, after));
    }
  };

  const run = async (ids: readonly string[]): Promise<void> => {
    const thread = new Worker(new URL('./worker-entry.mjs', import.meta.url));
    worker = thread;
    try {
      for (const id of ids) {
        if (cancelled) break;
        try {
          await reanalyse(thread, id);
        } catch (error) {
          message = `One take could not be measured anew and keeps its old figures: ${(error as Error).message}`;
        }
        if (!cancelled) done += 1;
      }
    } finally {
      await thread.terminate();
      worker = null;
    }
  };

  return {
    state: async () => ({ running: worker !== null, done, of, due: await models.takes.count({ where: due }), message }),
    async start(takeId) {
      if (worker) return;
      const ids = takeId ? [takeId] : await dueIds();
      if (worker || ids.length === 0) return;
      done = 0;
      of = ids.length;
      message = '';
      cancelled = false;
      running = run(ids);
    },
    async cancel() {
      cancelled = true;
      await worker?.terminate();
      await running;
    },
  };
};
