import {
  type BarsBehind,
  createDeliveryWatch,
  type HeardRepetition,
  type OffsetGuess,
  type OtherLevel,
  profileOf,
} from '@isochron/core/analysis';
import { playbackOf, type RepetitionPlan } from '@isochron/core/material';
import { AppError, type Drill, type Settings, type Tolerance } from '@isochron/core/schema';
import { proxy, transfer } from 'comlink';
import { after } from '../app/after';
import { playerMessage } from '../app/report-error';
import type { Chunk } from '../recorder/safe-store';
import type { listening } from '../workers/listening';
import { type OpenWorker, openListening } from '../workers/open-worker';
import { accompanimentSound } from './accompaniment-sound';
import { type Announcement, type AudioEngine, openEngine } from './engine';
import type { OpenInput } from './inputs/input';
import { inputOf } from './inputs/inputs';

/** What a repetition needs to be clicked, played and heard. */
export interface Scheduled {
  plan: RepetitionPlan;
  repetition: number;
  offset: OffsetGuess;
  drill: Drill;
  tolerance: Tolerance;
  otherLevel: OtherLevel | null;
  waitUntilS?: number;
  isCountedOn?: boolean;
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
  /** Ends the repetition that sounds; what of it was heard, or null where that is hardly a note. */
  conclude(byHand: boolean): Promise<HeardRepetition | null>;
  /** Forgets the clicks and the repetition that were planned. */
  silence(): void;
  announce(what: Announcement): void;
  duck(isDucked: boolean): void;
  /** From a moment of the audio clock on nothing is recorded, or it is again; what lies between is left out of the recording. */
  pauseRecording(atS: number): void;
  resumeRecording(atS: number): void;
  /** Stops everything; settles when the recording is kept, with what of it the browser did not take. */
  close(): Promise<Chunk[]>;
}

export interface TakeAudioOptions {
  /** The take that is recorded; null for listening without keeping anything. */
  takeId: string | null;
  /** The recording that is played along with; null for none. */
  accompanimentId?: string | null;
  settings: Settings;
  onHeard(heard: HeardRepetition): void;
  /** Nothing was played of a repetition until it would be counted on. */
  onNotBegun?(repetition: number): void;
  /** What was heard of a long repetition's bars that are over. */
  onBehind?(behind: BarsBehind): void;
  onLevel(peakDb: number): void;
  onTrouble(message: string): void;
  onLost(message: string): void;
}

const NO_SOUND =
  'No sound comes in at all. Check the input in Setup, reload the page, and begin again; nothing that was played is lost.';
const STALLED = 'The sound stopped coming in. What you played is kept. Check the input, then begin again.';
const NO_SOUND_MS = 5000;
/** The capture hands a block on every 10 ms; so many looks in a row without one are a stall. */
const WATCH_MS = 500;
const STALL_LOOKS = 4;
/** What is left of a recording is stored well within this. */
const CLOSE_MS = 10_000;

/** What was heard of a repetition is told well within this. */
const CONCLUDE_MS = 2000;
/** The delivery of sound is compared with the clock this often. */
const LOOK_MS = 100;
/** A worker that gave no sign of life is waited for no longer than this. */
const DEAD_CLOSE_MS = 1000;

const lostWords = (lostS: number) =>
  `About ${lostS.toFixed(2)} s of sound were lost on the way from the microphone. The place is marked in the recording.`;

/** Opens audio, input and listening worker for a take. Throws InputError with a sentence for the player. */
export const openTakeAudio = async (options: TakeAudioOptions): Promise<TakeAudio> => {
  const {
    takeId,
    accompanimentId = null,
    settings,
    onHeard,
    onNotBegun = () => {},
    onBehind = () => {},
    onLevel,
    onTrouble,
    onLost,
  } = options;
  const worker: OpenWorker<typeof listening> = openListening();
  const { ask } = worker;
  const { port1: blocksOut, port2: blocksIn } = new MessageChannel();
  let engine: AudioEngine | null = null;
  let input: OpenInput | null = null;
  let closed = false;
  let lastBlockMs = performance.now();

  const lose = (message: string) => {
    if (!closed) onLost(message);
  };
  worker.broken.catch((error: Error) => lose(playerMessage(error)));
  const dispose = async () => {
    input?.close();
    await engine?.close();
    worker.end();
  };

  try {
    engine = await openEngine(blocksOut, settings);
    const openedEngine = engine;
    const stretcher = accompanimentId
      ? await (await import('./stretcher')).openStretcher(
          openedEngine.context,
          await accompanimentSound(accompanimentId, openedEngine.sampleRateHz),
          settings.playAlongLevel,
        )
      : null;
    const source = inputOf(settings.input);
    input = await source.open({
      engine,
      settings,
      onLost: lose,
      onOnset: (onset) => void ask.tap(onset),
      onRelease: (pitch, timeS) => void ask.release(pitch, timeS),
    });
    const openedInput = input;
    const profile = profileOf(source.profileId(settings));

    const started = new Promise<number>((resolve, reject) => {
      const events = {
        onStarted: resolve,
        onHeard,
        onNotBegun,
        onBehind,
        onTrouble,
        onLevel(peakDb: number) {
          lastBlockMs = performance.now();
          onLevel(peakDb);
        },
      };
      const { sampleRateHz } = openedEngine;
      const keepAs = openedInput.records ? takeId : null;
      ask.open({ sampleRateHz, keepAs }, transfer(blocksIn, [blocksIn]), proxy(events)).catch(reject);
      void after(NO_SOUND_MS).then(() => reject(new AppError(NO_SOUND)));
    });
    const startFrame = await Promise.race([started, worker.broken]);

    const hush = () => {
      openedEngine.forgetClicks();
      stretcher?.stop();
      openedInput.forget();
    };
    const look = createDeliveryWatch();
    const watchDelivery = setInterval(() => {
      const deliveredS = openedInput.deliveredS?.() ?? null;
      const found = deliveredS === null ? null : look(openedEngine.nowS(), deliveredS);
      if (!found) return;
      void ask.lost(found.fromS, found.toS);
      onTrouble(lostWords(found.lostS));
    }, LOOK_MS);
    // By looks and not by the clock: a machine that was held up as a whole takes its sound up again with everything else.
    let emptyLooks = 0;
    let seenBlockMs = lastBlockMs;
    const watch = setInterval(() => {
      emptyLooks = seenBlockMs === lastBlockMs && document.visibilityState === 'visible' ? emptyLooks + 1 : 0;
      seenBlockMs = lastBlockMs;
      if (emptyLooks >= STALL_LOOKS) lose(STALLED);
    }, WATCH_MS);

    return {
      nowS: openedEngine.nowS,
      recordingStartS: startFrame / openedEngine.sampleRateHz,
      offset: openedInput.offset,
      latencyS: openedInput.latencyS,
      profileId: profile.id,
      schedule(scheduled) {
        const { plan, drill, isCountedOn } = scheduled;
        // Of a count-in that is going on already only what is to come.
        const fromS = isCountedOn ? openedEngine.nowS() : Number.NEGATIVE_INFINITY;
        openedEngine.playClicks(plan.clicks.filter(({ timeS }) => timeS > fromS));
        if (drill.playAlong) stretcher?.play(playbackOf(drill.playAlong, plan), plan.endS);
        openedInput.prepare(plan, drill);
        const { hearsClicks, latencyS } = openedInput;
        void ask.expect({ ...scheduled, profile, latencyS, hearsClicks });
      },
      conclude(byHand) {
        hush();
        const none = worker.broken.catch(() => null);
        return Promise.race([ask.conclude(byHand), none, after(CONCLUDE_MS).then(() => null)]);
      },
      silence() {
        hush();
        void ask.cancel();
      },
      announce: (what) => openedEngine.announce(what),
      duck: (isDucked) => openedEngine.duck(isDucked),
      pauseRecording: (atS) => void ask.pause(atS),
      resumeRecording: (atS) => void ask.resume(atS),
      async close() {
        closed = true;
        clearInterval(watch);
        clearInterval(watchDelivery);
        // A worker that has died can store nothing more; its last second is lost, the take is not.
        const isDead = performance.now() - lastBlockMs > (STALL_LOOKS - 1) * WATCH_MS;
        const left = [ask.close(), worker.broken.catch(() => []), after(isDead ? DEAD_CLOSE_MS : CLOSE_MS).then(() => [])];
        const unkept = await Promise.race(left);
        await dispose();
        return unkept;
      },
    };
  } catch (error) {
    closed = true;
    await dispose();
    throw error;
  }
};
