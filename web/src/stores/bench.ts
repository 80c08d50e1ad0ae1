import type { BarsBehind, HeardRepetition } from '@isochron/core/analysis';
import { constantTempo } from '@isochron/core/material';
import { lineOf } from '@isochron/core/planning';
import { dayNumber, now, practiceConfigKey } from '@isochron/core/schema';
import {
  advance,
  beginStrategy,
  IDLE,
  type LoopEffect,
  type LoopEvent,
  type LoopState,
  type PlayerEvent,
  resumeStrategy,
  withStrategyDrills,
} from '@isochron/core/strategy';
import { spokenDecision } from '@isochron/core/words';
import { create } from 'zustand';
import { playerMessage } from '../app/report-error';
import { announcementOf } from '../audio/engine';
import { speak } from '../audio/speech';
import { sendUnsent } from '../recorder/outbox';
import { enter } from './practice-session';
import { type Beginning, type RunningTake, startTake } from './running-take';
import { notePlayed } from './stretch';

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
  /** What was heard so far of the long repetition that sounds; null where none does. */
  behind: BarsBehind | null;
  /** The take that is played, or that was played last; no one's to draw. */
  running: RunningTake | null;
  begin(beginning: Beginning): Promise<void>;
  send(event: PlayerEvent): void;
  /** Back to before the beginning, for the next take. */
  clear(): void;
}

const CLOCK_MS = 60;
const CLIPPED = 'Too loud: the recording runs into its limit. Turn the input down or move the microphone away.';

/** Where a take begins: what the loop is told once its sound is open. */
const beginningOf = ({ beginning, audio }: RunningTake): LoopEvent => {
  const { config, from, startBpm, drills, settings } = beginning;
  return {
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
      afterBreak: settings.afterBreak,
      waits: settings.waits,
    },
    strategy: from
      ? resumeStrategy(config.strategyId, from.strategy)
      : beginStrategy(config.strategyId, lineOf(config).strategies[config.strategyId] ?? null),
    tempo: from?.tempo ?? constantTempo(startBpm),
    ...(from ? { isBack: from.isBack, finishCleans: from.finishCleans, tense: from.tense } : {}),
    nowS: audio.nowS(),
    recordingStartS: audio.recordingStartS,
    offset: audio.offset,
  };
};

/** Told to the benchmark: when it was decided, announced and the next clicks handed on, after the last note and before the end. */
const markDecided = (heardMs: number, { audio }: RunningTake, { plan }: LoopState) => {
  const nowS = audio.nowS();
  const detail = {
    tookMs: performance.now() - heardMs,
    afterLastNoteS: nowS - (plan?.notes.at(-1)?.timeS ?? 0),
    afterEndS: nowS - (plan?.endS ?? 0),
  };
  performance.mark('isochron:decided', { detail });
};

export const useBench = create<Bench>((set, get) => {
  // A take that another one followed is kept as it stood then.
  let clock: ReturnType<typeof setInterval>;
  const left = new WeakMap<RunningTake, LoopState>();
  const loopOf = (one: RunningTake) => left.get(one) ?? get().loop;
  const leave = () => {
    const { running, loop } = get();
    if (running) left.set(running, loop);
    set({ running: null });
  };
  const isRunning = () => get().running?.isOver() === false;

  const carryOut: {
    [Type in LoopEffect['type']]: (effect: Extract<LoopEffect, { type: Type }>, running: RunningTake) => void;
  } = {
    schedule: ({ type: _type, ...repetition }, { audio, tolerance }) => audio.schedule({ ...repetition, tolerance }),
    conclude: ({ byHand }, one) =>
      void one.audio.conclude(byHand).then((heard) => {
        if (get().running !== one) return;
        if (heard) onHeard(heard);
        else dispatch({ type: 'nothing-heard', nowS: one.audio.nowS() });
      }),
    silence: (_, { audio }) => audio.silence(),
    announce: ({ what, far }, { audio, beginning }) => {
      const { settings } = beginning;
      if (settings.announce) audio.announce(announcementOf(what, far));
      const { repetitions, drill } = get().loop;
      const last = repetitions.at(-1);
      if (last) speak(spokenDecision(last, drill, settings), settings, audio.duck);
    },
    keep: (_, one) => {
      const isOver = one.isOver();
      const kept = one.keep(loopOf(one), isOver);
      void (isOver ? kept.then(sendUnsent) : kept);
    },
    'pause-recording': ({ atS }, { audio }) => audio.pauseRecording(atS),
    'resume-recording': ({ atS }, { audio }) => audio.resumeRecording(atS),
    finish: (_, one) => {
      clearInterval(clock);
      void one.finish(() => loopOf(one));
    },
  };

  const dispatch = (event: LoopEvent) => {
    const { state, effects } = advance(get().loop, event);
    if (state !== get().loop) set({ loop: state });
    const { running } = get();
    if (!running) return;
    for (const effect of effects)
      (carryOut[effect.type] as (effect: LoopEffect, running: RunningTake) => void)(effect, running);
  };

  const onHeard = ({ repetition, analysed, clipped }: HeardRepetition) => {
    const { running, loop } = get();
    if (!running || repetition !== loop.repetitions.length) return;
    set({ remark: clipped > 0 ? CLIPPED : '', behind: null });
    notePlayed();
    const heardMs = performance.now();
    dispatch({ type: 'analysed', analysed, nowS: running.audio.nowS() });
    markDecided(heardMs, running, loop);
  };

  return {
    loop: IDLE,
    takeId: null,
    opening: false,
    trouble: '',
    remark: '',
    calibrated: false,
    peakDb: null,
    behind: null,
    running: null,

    async begin(beginning) {
      if (isRunning() || get().opening) return;
      const { config } = beginning;
      const drills = withStrategyDrills(beginning.drills, config.strategyId, beginning.startBpm);
      const takeId = crypto.randomUUID();
      leave();
      set({ opening: true, trouble: '', remark: '', takeId, loop: IDLE, peakDb: null, behind: null });
      try {
        const running = await startTake(
          takeId,
          { ...beginning, drills },
          {
            onHeard,
            onNotBegun: (repetition) => {
              const { running, loop } = get();
              if (running?.takeId !== takeId || repetition !== loop.repetitions.length) return;
              dispatch({ type: 'not-begun', nowS: running.audio.nowS() });
            },
            onBehind: (behind) => {
              if (get().running?.takeId === takeId) set({ behind });
            },
            onLevel: (peakDb) => set({ peakDb }),
            onTrouble: (remark) => set({ remark }),
            onLost: (trouble) => {
              set({ trouble });
              get().send({ type: 'input-lost' });
            },
          },
          () => get().running?.takeId === takeId,
        );
        const { audio } = running;
        clock = setInterval(() => dispatch({ type: 'clock', nowS: audio.nowS() }), CLOCK_MS);
        set({ calibrated: audio.latencyS !== null, running });
        enter({ config: practiceConfigKey(config), methodId: config.methodId, strategyId: config.strategyId }, takeId);
        dispatch(beginningOf(running));
      } catch (error) {
        set({ trouble: playerMessage(error), takeId: null });
      } finally {
        set({ opening: false });
      }
    },

    send(event) {
      const { running } = get();
      if (!running) return;
      const isOver = running.isOver();
      if (event.type === 'time-up' && !isOver && running.beginning.settings.announce) running.audio.announce('bell');
      // Once the audio is closed its clock stands; what can still be said needs no time.
      dispatch({ ...event, nowS: isOver ? 0 : running.audio.nowS() });
    },

    clear() {
      if (isRunning()) return;
      leave();
      set({ loop: IDLE, takeId: null, trouble: '', remark: '', peakDb: null });
    },
  };
});
