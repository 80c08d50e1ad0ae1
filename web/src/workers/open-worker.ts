import { AppError } from '@isochron/core/schema';
import { type Remote, wrap } from 'comlink';
import type { calibrating } from './calibrating';
import type { findingBeats } from './finding-beats';
import type { importing } from './importing';
import type { listening } from './listening';
import type { playing } from './playing';
import type { scores } from './scores';
import type { tempos } from './tempos';

/** A worker's functions, and the end of it. */
export interface OpenWorker<Api> {
  ask: Remote<Api>;
  /** Rejects when the worker cannot start or dies: with a sentence for the player. */
  broken: Promise<never>;
  end(): void;
}

const BROKEN = 'The measuring part of Isochron stopped. What you played is kept. Reload the page if it happens again.';

const opened = <Api>(worker: Worker): OpenWorker<Api> => {
  const broken = new Promise<never>((_, reject) => {
    worker.onerror = () => reject(new AppError(BROKEN));
  });
  // Whoever needs to know races it against what is waited for.
  broken.catch(() => {});
  return { ask: wrap<Api>(worker), broken, end: () => worker.terminate() };
};

// Vite finds a worker's file by this very form, so that each has its line.
export const openListening = () =>
  opened<typeof listening>(new Worker(new URL('./listener.worker.ts', import.meta.url), { type: 'module' }));
export const openCalibrating = () =>
  opened<typeof calibrating>(new Worker(new URL('./calibration.worker.ts', import.meta.url), { type: 'module' }));
export const openImporting = () =>
  opened<typeof importing>(new Worker(new URL('./import.worker.ts', import.meta.url), { type: 'module' }));
export const openScores = () =>
  opened<typeof scores>(new Worker(new URL('./scores.worker.ts', import.meta.url), { type: 'module' }));
export const openTempos = () =>
  opened<typeof tempos>(new Worker(new URL('./tempos.worker.ts', import.meta.url), { type: 'module' }));
export const openFindingBeats = () =>
  opened<typeof findingBeats>(new Worker(new URL('./beats.worker.ts', import.meta.url), { type: 'module' }));
export const openPlaying = () =>
  opened<typeof playing>(new Worker(new URL('./simulated-player.worker.ts', import.meta.url), { type: 'module' }));
