import { Worker } from 'node:worker_threads';
import { ENGINE_VERSION, type Reanalysis, type Take } from '@isochron/core/schema';
import { Op } from 'sequelize';
import type { Store } from '../database/open';
import { programAt } from '../program';
import { checkSound, getRecording } from '../recordings';
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
    const onMessage = (answer: ReanalyseAnswer) =>
      settle(() => (answer.type === 'done' ? resolve(answer.take) : reject(new Error(answer.message))));
    const onError = (error: Error) => settle(() => reject(error));
    const onExit = () => settle(() => resolve(null));
    const settle = (finish: () => void) => {
      worker.off('message', onMessage).off('error', onError).off('exit', onExit);
      finish();
    };
    worker.on('message', onMessage).on('error', onError).on('exit', onExit);
    worker.postMessage(request);
  });

const failed = (error: unknown): string =>
  `One take could not be measured again and keeps its old figures: ${(error as Error).message}`;

/** Makes a {@link Reanalyser} over a store; `entry` is the worker's code. */
export const createReanalyser = (store: Store, entry = programAt('reanalyse.worker')): Reanalyser => {
  const { models } = store;
  let worker: Worker | null = null;
  let running: Promise<void> = Promise.resolve();
  let isRunning = false;
  let cancelled = false;
  let done = 0;
  let of = 0;
  let message = '';

  const due = { hasRecording: true, engine: { [Op.ne]: ENGINE_VERSION } };
  const dueIds = async (): Promise<string[]> =>
    (await models.takes.findAll({ attributes: ['id'], where: due })).map((row) => row.get('id') as string);

  const open = (): Worker => {
    const thread = new Worker(entry);
    // One that fails between two questions has nobody who listens; unheard it would end the server.
    thread.on('error', (error) => {
      message = failed(error);
      if (worker === thread) worker = null;
    });
    thread.on('exit', () => {
      if (worker === thread) worker = null;
    });
    worker = thread;
    return thread;
  };

  /** Measures one take anew; once more where it was changed meanwhile, so that no correction is lost. */
  const reanalyse = async (id: string): Promise<void> => {
    for (let isStored = false; !isStored; ) {
      const found = await readTake(store, id);
      const recording = await getRecording(store, id);
      // A thread that was stopped meanwhile would never answer.
      if (cancelled || !found || !recording) return;
      if (found.leftOut > 0) throw new Error('a part of it cannot be read.');
      checkSound(recording.state);
      // One that died while nobody asked is followed by another.
      const after = await ask(worker ?? open(), { take: found.take, recordingPath: recording.path });
      if (after === null && !cancelled) throw new Error('the measuring part stopped.');
      isStored = after === null || (await replaceAnalysis(store, found.take, after));
    }
  };

  const run = async (ids: readonly string[]): Promise<void> => {
    try {
      for (const id of ids) {
        if (cancelled) break;
        try {
          await reanalyse(id);
        } catch (error) {
          message = failed(error);
        }
        if (!cancelled) done += 1;
      }
    } finally {
      await worker?.terminate();
      worker = null;
      isRunning = false;
    }
  };

  return {
    state: async () => ({ running: isRunning, done, of, due: await models.takes.count({ where: due }), message }),
    async start(takeId) {
      if (isRunning) return;
      const ids = takeId ? [takeId] : await dueIds();
      if (isRunning || ids.length === 0) return;
      isRunning = true;
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
