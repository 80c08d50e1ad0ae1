import type { HeardRepetition } from '@isochron/core/analysis';
import { constantTempo } from '@isochron/core/material';
import { afterTake, lineOf } from '@isochron/core/planning';
import {
  type Drill,
  dayNumber,
  type LoopSnapshot,
  now,
  type Passage,
  type PracticeConfig,
  type Purpose,
  practiceConfigKey,
  type Settings,
  type Take,
} from '@isochron/core/schema';
import {
  advance,
  beginStrategy,
  IDLE,
  type LoopEffect,
  type LoopEvent,
  type LoopState,
  makeTake,
  type PlayerEvent,
  resumeStrategy,
  snapshotOf,
  withStrategyDrills,
} from '@isochron/core/strategy';
import { create } from 'zustand';
import { shownPracticeConfig, showPracticeConfig } from '../api/queries';
import { playerMessage } from '../app/report-error';
import { openTakeAudio, type TakeAudio } from '../audio/take-audio';
import { notKeptWords } from '../recorder/not-kept';
import { beginTake, endTake, keepForSending, sendUnsent } from '../recorder/outbox';
import { forgetTake, holdChunks } from '../recorder/unsent';
import { enter, presentPracticeSession, stand } from './practice-session';
import { notePlayed } from './stretch';

/** What a take is begun with. */
export interface Beginning {
  passage: Passage;
  config: PracticeConfig;
  /** What is played in turn. */
  drills: readonly Drill[];
  startBpm: number;
  settings: Settings;
  purpose: Purpose;
  /** Where a take that was broken off stood, to go on from there. */
  from: LoopSnapshot | null;
}

interface Bench {
  loop: LoopState;
  takeId: string | null;
  /** True while the audio is being opened. */
  opening: boolean;
  /** Empty, or what went wrong, for the player. */
  trouble: string;
  /** A remark that stops nothing: clipping, a full store. */
  remark: string;
  /** Whether the latency of the devices in use is known, so that placement is not relative. */
  calibrated: boolean;
  /** Loudest sample of the last moment, dBFS; null before any sound came in. */
  peakDb: number | null;
  begin(beginning: Beginning): Promise<void>;
  send(event: PlayerEvent): void;
  /** Back to before the beginning, for the next take. */
  clear(): void;
}

const CLOCK_MS = 60;
const CLIPPED = 'Too loud: the recording runs into its limit. Turn the input down or move the microphone away.';
/** What belongs to the take being played and is no one's to draw. */
interface Running {
  takeId: string;
  /** The loop as it stood when another take was begun; until then it is the Bench's. */
  left: LoopState | null;
  audio: TakeAudio;
  beginning: Beginning;
  startedAt: Date;
  endedAt: Date | null;
  clock: ReturnType<typeof setInterval>;
}

let running: Running | null = null;

const takeOf = (loop: LoopState, { takeId, audio, beginning, startedAt, endedAt }: Running): Take => {
  const { passage, config, drills, settings, purpose } = beginning;
  return makeTake({
    id: takeId,
    sessionId: presentPracticeSession().id,
    passage,
    config,
    startedAt,
    endedAt,
    input: settings.input,
    purpose,
    goalBpm: loop.target.goalBpm,
    startBpm: loop.target.startBpm,
    strategy: snapshotOf(loop.decisions.strategy),
    tolerance: settings.tolerance,
    latencyS: audio.latencyS,
    profileId: audio.profileId,
    drills: [...drills],
    repetitions: loop.repetitions,
  });
};

export const useBench = create<Bench>((set, get) => {
  const loopOf = (one: Running) => one.left ?? get().loop;

  /** Keeps a take in the browser; it goes to the server once it is complete. */
  const keep = async (one: Running, complete: boolean) => {
    const loop = loopOf(one);
    const { takeId } = one;
    if (loop.repetitions.length === 0) return;
    const snapshot = {
      takeId,
      repetitions: loop.repetitions.length,
      drill: loop.drillIndex,
      tempo: loop.tempo,
      strategy: snapshotOf(loop.decisions.strategy),
      isBack: loop.decisions.isBack,
      finishCleans: loop.decisions.finishCleans,
    };
    if (one === running) stand(complete ? null : snapshot);
    const how = await keepForSending({ session: presentPracticeSession(), take: takeOf(loop, one), complete });
    if (how === 'held' && one === running) set({ remark: notKeptWords('take') });
  };

  const finish = async () => {
    const over = running;
    if (!over) return;
    const { takeId } = over;
    clearInterval(over.clock);
    over.endedAt = now();
    holdChunks(await over.audio.close());
    // What the take leaves for its configuration is shown at once, whether or not the server is there: for the configuration as it is kept, not as a
    // block or a recording had it practised.
    showPracticeConfig(afterTake(shownPracticeConfig(over.beginning.config), takeOf(loopOf(over), over)));
    await keep(over, true);
    if (loopOf(over).repetitions.length === 0) {
      if (over === running) stand(null);
      // Stopped before its first verdict: its sound belongs to nothing.
      await forgetTake(takeId).catch(() => {});
    }
    endTake(takeId);
    await sendUnsent();
    // An answer about ease may still come for the last repetition, until something else begins.
  };

  const carryOut: { [Type in LoopEffect['type']]: (effect: Extract<LoopEffect, { type: Type }>) => void } = {
    schedule: ({ plan, drill, repetition, offset }) => {
      if (!running) return;
      const { settings } = running.beginning;
      running.audio.schedule({ plan, repetition, offset, drill, tolerance: settings.tolerance });
    },
    silence: () => running?.audio.silence(),
    announce: ({ what }) => {
      if (running?.beginning.settings.announce) running.audio.announce(what);
    },
    keep: () => {
      if (running) void (running.endedAt ? keep(running, true).then(sendUnsent) : keep(running, false));
    },
    'pause-recording': ({ atS }) => running?.audio.pauseRecording(atS),
    'resume-recording': ({ atS }) => running?.audio.resumeRecording(atS),
    finish: () => void finish(),
  };

  const dispatch = (event: LoopEvent) => {
    const { state, effects } = advance(get().loop, event);
    if (state !== get().loop) set({ loop: state });
    for (const effect of effects) (carryOut[effect.type] as (effect: LoopEffect) => void)(effect);
  };

  const onHeard = ({ repetition, analysed, clipped }: HeardRepetition) => {
    if (!running || repetition !== get().loop.repetitions.length) return;
    set({ remark: clipped > 0 ? CLIPPED : '' });
    notePlayed();
    const { audio } = running;
    const lastNoteS = get().loop.plan?.notes.at(-1)?.timeS ?? 0;
    const endS = get().loop.plan?.endS ?? 0;
    const heardMs = performance.now();
    dispatch({ type: 'analysed', analysed, nowS: audio.nowS() });
    // Decided, announced, and the next clicks handed on: read by the benchmark.
    performance.mark('isochron:decided', {
      detail: { repetition, tookMs: performance.now() - heardMs, afterEndS: audio.nowS() - endS },
    });
    // Two frames on, the verdict is painted; the mark is read by the benchmark.
    requestAnimationFrame(() =>
      requestAnimationFrame(() => {
        performance.mark('isochron:verdict-shown', { detail: { repetition, afterLastNoteS: audio.nowS() - lastNoteS } });
      }),
    );
  };

  const isRunning = () => running !== null && running.endedAt === null;

  return {
    loop: IDLE,
    takeId: null,
    opening: false,
    trouble: '',
    remark: '',
    calibrated: false,
    peakDb: null,

    async begin(beginning) {
      if (isRunning() || get().opening) return;
      const { config, settings, from, startBpm } = beginning;
      const drills = withStrategyDrills(beginning.drills, config.strategyId);
      const takeId = crypto.randomUUID();
      if (running) running.left = get().loop;
      running = null;
      set({ opening: true, trouble: '', remark: '', takeId, loop: IDLE, peakDb: null });
      beginTake(takeId);
      try {
        const audio = await openTakeAudio({
          takeId,
          accompanimentId: drills.find(({ playAlong }) => playAlong)?.playAlong?.accompanimentId,
          settings,
          onHeard,
          onLevel: (peakDb) => set({ peakDb }),
          onTrouble: (remark) => set({ remark }),
          onLost: (trouble) => {
            set({ trouble });
            get().send({ type: 'input-lost' });
          },
        });
        const clock = setInterval(() => dispatch({ type: 'clock', nowS: audio.nowS() }), CLOCK_MS);
        set({ calibrated: audio.latencyS !== null });
        running = {
          takeId,
          left: null,
          audio,
          beginning: { ...beginning, drills },
          startedAt: now(),
          endedAt: null,
          clock,
        };
        enter({ config: practiceConfigKey(config), methodId: config.methodId, strategyId: config.strategyId }, takeId);
        dispatch({
          type: 'begin',
          drills,
          drillIndex: from?.drill,
          target: {
            goalBpm: config.goalBpm,
            startBpm,
            day: dayNumber(now()),
            overshootPct: config.overshootPct,
            relaxedFinish: config.relaxedFinish,
            minRepetitions: config.minRepetitions,
            restBars: config.restBars,
          },
          strategy: from
            ? resumeStrategy(config.strategyId, from.strategy)
            : beginStrategy(config.strategyId, lineOf(config).strategies[config.strategyId] ?? null),
          tempo: from?.tempo ?? constantTempo(startBpm),
          ...(from ? { isBack: from.isBack, finishCleans: from.finishCleans } : {}),
          nowS: audio.nowS(),
          recordingStartS: audio.recordingStartS,
          offset: audio.offset,
        });
      } catch (error) {
        endTake(takeId);
        set({ trouble: playerMessage(error), takeId: null });
      } finally {
        set({ opening: false });
      }
    },

    send(event) {
      if (!running) return;
      if (event.type === 'time-up' && !running.endedAt && running.beginning.settings.announce) running.audio.announce('bell');
      // Once the audio is closed its clock stands; what can still be said needs no time.
      dispatch({ ...event, nowS: running.endedAt ? 0 : running.audio.nowS() });
    },

    clear() {
      if (isRunning()) return;
      if (running) running.left = get().loop;
      running = null;
      set({ loop: IDLE, takeId: null, trouble: '', remark: '', peakDb: null });
    },
  };
});
