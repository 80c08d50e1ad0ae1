import {
  advance,
  type Course,
  ENGINE_VERSION,
  type Exercise,
  HALF_SPEED_CLIMB,
  type Heard,
  IDLE,
  type LoopEffect,
  type LoopEvent,
  type LoopState,
  type PlayerEvent,
  type Settings,
  type Take,
} from '@isochron/core';
import { create } from 'zustand';
import { openTakeAudio, type TakeAudio } from '../audio/take-audio';
import { sendUnsent, setActiveTake } from '../recorder/outbox';
import { keepTake } from '../recorder/safe-store';
import { SESSION } from './session';

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
  begin(exercise: Exercise, course: Course, settings: Settings): Promise<void>;
  send(event: PlayerEvent): void;
  /** Back to before the beginning, for the next take. */
  clear(): void;
}

const CLOCK_MS = 60;
const CLIPPED = 'Too loud: the recording runs into its limit. Turn the input down or move the microphone away.';

/** What belongs to the take being played and is no one's to draw. */
interface Running {
  audio: TakeAudio;
  settings: Settings;
  startedAt: string;
  clock: ReturnType<typeof setInterval>;
}

let running: Running | null = null;

const takeDocument = (takeId: string, loop: LoopState, { audio, settings, startedAt }: Running): Take => ({
  id: takeId,
  sessionId: SESSION.id,
  exerciseId: loop.exercise?.id ?? '',
  startedAt,
  endedAt: loop.phase === 'finished' ? new Date().toISOString() : null,
  input: settings.input,
  engine: ENGINE_VERSION,
  school: loop.schoolId,
  ...loop.course,
  tolerance: settings.tolerance,
  latencyS: audio.latencyS,
  profile: audio.profileId,
  withoutClick: false,
  sourceFile: '',
  closing: loop.closing,
  hasRecording: false,
  repetitions: loop.repetitions,
});

export const useBench = create<Bench>((set, get) => {
  /** Keeps the take in the browser; it goes to the server once it is complete. */
  const keep = async (complete: boolean) => {
    const { takeId, loop } = get();
    if (!running || !takeId || loop.repetitions.length === 0) return;
    try {
      await keepTake({ session: SESSION, take: takeDocument(takeId, loop, running), complete });
    } catch {
      set({ remark: 'The browser has no room left to keep this take. Free some disk space before the next one.' });
    }
  };

  const finish = async () => {
    const over = running;
    if (!over) return;
    clearInterval(over.clock);
    await over.audio.close();
    await keep(true);
    running = null;
    setActiveTake(null);
    await sendUnsent();
  };

  const carryOut: { [Type in LoopEffect['type']]: (effect: Extract<LoopEffect, { type: Type }>) => void } = {
    schedule: ({ plan, repetition, offset }) => {
      const { exercise } = get().loop;
      if (running && exercise)
        running.audio.schedule({ plan, repetition, offset, exercise, tolerance: running.settings.tolerance });
    },
    silence: () => running?.audio.silence(),
    announce: ({ action }) => {
      if (running?.settings.announce) running.audio.announce(action);
    },
    keep: () => void keep(false),
    finish: () => void finish(),
  };

  const dispatch = (event: LoopEvent) => {
    const { state, effects } = advance(get().loop, event);
    if (state !== get().loop) set({ loop: state });
    for (const effect of effects) (carryOut[effect.type] as (effect: LoopEffect) => void)(effect);
  };

  const onHeard = ({ repetition, analysed, clipped }: Heard) => {
    if (!running || repetition !== get().loop.repetitions.length) return;
    set({ remark: clipped > 0 ? CLIPPED : '' });
    const { audio } = running;
    const lastNoteS = get().loop.plan?.notes.at(-1)?.timeS ?? 0;
    dispatch({ type: 'analysed', analysed, nowS: audio.nowS() });
    // Two frames on, the verdict is painted; the mark is read by the benchmark.
    requestAnimationFrame(() =>
      requestAnimationFrame(() => {
        performance.mark('isochron:verdict-shown', { detail: { repetition, afterLastNoteS: audio.nowS() - lastNoteS } });
      }),
    );
  };

  return {
    loop: IDLE,
    takeId: null,
    opening: false,
    trouble: '',
    remark: '',
    calibrated: false,
    peakDb: null,

    async begin(exercise, course, settings) {
      if (running || get().opening) return;
      const takeId = crypto.randomUUID();
      set({ opening: true, trouble: '', remark: '', takeId, loop: IDLE, peakDb: null });
      setActiveTake(takeId);
      try {
        const audio = await openTakeAudio({
          takeId,
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
        running = { audio, settings, startedAt: new Date().toISOString(), clock };
        dispatch({
          type: 'begin',
          exercise,
          course,
          schoolId: HALF_SPEED_CLIMB.id,
          nowS: audio.nowS(),
          recordingStartS: audio.recordingStartS,
          offset: audio.offset,
        });
      } catch (error) {
        setActiveTake(null);
        set({ trouble: (error as Error).message, takeId: null });
      } finally {
        set({ opening: false });
      }
    },

    send(event) {
      if (!running) return;
      dispatch({ ...event, nowS: running.audio.nowS() });
    },

    clear() {
      if (!running) set({ loop: IDLE, takeId: null, trouble: '', remark: '', peakDb: null });
    },
  };
});
