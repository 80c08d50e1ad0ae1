import {
  type Exercise,
  type Heard,
  type OffsetGuess,
  profileOf,
  type RepetitionPlan,
  type Settings,
  type TempoAction,
  type Tolerance,
} from '@isochron/core';
import type { FromListener, ToListener } from '../workers/listener-messages';
import { type AudioEngine, openEngine } from './engine';
import type { OpenInput } from './inputs/input';
import { inputOf } from './inputs/inputs';

/** What a repetition needs to be clicked, played and heard. */
export interface Scheduled {
  plan: RepetitionPlan;
  repetition: number;
  offset: OffsetGuess;
  exercise: Exercise;
  tolerance: Tolerance;
}

/** The audio of one take: click, input, listening worker and recording. */
export interface TakeAudio {
  nowS(): number;
  /** The audio clock's time of the recording's first sample. */
  recordingStartS: number;
  /** Where the latency of this input is looked for at first. */
  offset: OffsetGuess;
  /** The calibrated latency, or null. */
  latencyS: number | null;
  profileId: string;
  schedule(scheduled: Scheduled): void;
  /** Forgets the clicks and the repetition that were planned. */
  silence(): void;
  announce(action: TempoAction): void;
  /** Stops everything; settles when the recording is kept. */
  close(): Promise<void>;
}

export interface TakeAudioOptions {
  takeId: string;
  settings: Settings;
  onHeard(heard: Heard): void;
  onLevel(peakDb: number): void;
  onTrouble(message: string): void;
  onLost(message: string): void;
}

const NO_SOUND =
  'No sound comes in at all. Check the input in Setup, reload the page, and begin again; nothing that was played is lost.';
const STALLED = 'The sound stopped coming in. What you played is kept. Check the input, then begin again.';
/** The capture hands a block on every 10 ms; this long without one is a stall. */
const STALL_MS = 1500;

/** Opens audio, input and listening worker for a take. Throws InputTrouble with a sentence for the player. */
export const openTakeAudio = async (options: TakeAudioOptions): Promise<TakeAudio> => {
  const { takeId, settings, onHeard, onLevel, onTrouble, onLost } = options;
  const worker = new Worker(new URL('../workers/listener.worker.ts', import.meta.url), { type: 'module' });
  const tell = (message: ToListener, transfer: Transferable[] = []) => worker.postMessage(message, transfer);
  const { port1: blocksOut, port2: blocksIn } = new MessageChannel();
  let engine: AudioEngine | null = null;
  let input: OpenInput | null = null;
  let closed = false;
  let lastBlockMs = performance.now();

  const lose = (message: string) => {
    if (!closed) onLost(message);
  };
  const dispose = async () => {
    input?.close();
    await engine?.close();
    worker.terminate();
  };

  try {
    engine = await openEngine(blocksOut, settings.clickLevel);
    const openedEngine = engine;
    const source = inputOf(settings.input);
    input = await source.open({
      engine,
      settings,
      onLost: lose,
      onOnset: (onset) => tell({ type: 'tap', onset }),
      onRelease: (pitch, timeS) => tell({ type: 'release', pitch, timeS }),
    });
    const openedInput = input;
    const profile = profileOf(source.profileId(settings));

    let onClosed = () => {};
    const started = new Promise<number>((resolve, reject) => {
      const tooLong = setTimeout(() => reject(new Error(NO_SOUND)), 5000);
      worker.onmessage = ({ data }: MessageEvent<FromListener>) => {
        if (data.type === 'started') {
          clearTimeout(tooLong);
          resolve(data.frame);
        } else if (data.type === 'heard') onHeard(data.heard);
        else if (data.type === 'level') {
          lastBlockMs = performance.now();
          onLevel(data.peakDb);
        } else if (data.type === 'trouble') onTrouble(data.message);
        else onClosed();
      };
      worker.onerror = () => reject(new Error('The measuring part of Isochron did not start. Reload the page.'));
    });
    tell({ type: 'open', sampleRateHz: engine.sampleRateHz, takeId, records: input.records, blocks: blocksIn }, [blocksIn]);
    const startFrame = await started;

    const watch = setInterval(() => {
      if (performance.now() - lastBlockMs > STALL_MS && document.visibilityState === 'visible') lose(STALLED);
    }, 500);

    return {
      nowS: openedEngine.nowS,
      recordingStartS: startFrame / openedEngine.sampleRateHz,
      offset: openedInput.offset,
      latencyS: openedInput.latencyS,
      profileId: profile.id,
      schedule({ plan, repetition, offset, exercise, tolerance }) {
        openedEngine.playClicks(plan.clicks);
        openedInput.prepare(plan, exercise);
        const { hearsClicks, latencyS } = openedInput;
        tell({
          type: 'expect',
          expectation: { repetition, exercise, plan, tolerance, profile, latencyS, offset, hearsClicks },
        });
      },
      silence() {
        openedEngine.forgetClicks();
        openedInput.forget();
        tell({ type: 'cancel' });
      },
      announce: (action) => openedEngine.announce(action),
      async close() {
        closed = true;
        clearInterval(watch);
        const kept = new Promise<void>((resolve) => {
          onClosed = resolve;
        });
        tell({ type: 'close' });
        await kept;
        await dispose();
      },
    };
  } catch (error) {
    closed = true;
    await dispose();
    throw error;
  }
};
