import { Worker } from 'node:worker_threads';
import { ENGINE_VERSION, type Reanalysis, type Take } from '@isochron/core';
import { Op } from 'sequelize';
import type { Store } from '../database/open';
import { getRecording } from '../recordings';
import { getTake, replaceAnalysis } from '../takes';
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

  const dueIds = async (): Promise<string[]> => {
    const recorded = (await models.recordings.findAll()).map((row) => row.get('takeId') as string);
    const rows = await models.takes.findAll({ where: { id: recorded, engine: { [Op.ne]: ENGINE_VERSION } } });
    return rows.map((row) => row.get('id') as string);
  };

  const reanalyse = async (thread: Worker, id: string): Promise<void> => {
    const take = await getTake(store, id);
    const recording = await getRecording(store, id);
    // A thread that was stopped meanwhile would never answer.
    if (cancelled || !take || !recording) return;
    const after = await ask(thread, { take, recordingPath: recording.path });
    if (after) await replaceAnalysis(store, take, after);
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
    state: async () => ({ running: worker !== null, done, of, due: (await dueIds()).length, message }),
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
