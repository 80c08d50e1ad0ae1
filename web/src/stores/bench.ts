import {
  advance,
  afterTake,
  beginSchool,
  type Course,
  constantTempo,
  type Drill,
  type Heard,
  IDLE,
  keyOf,
  type LoopEffect,
  type LoopEvent,
  type LoopState,
  makeTake,
  type Passage,
  type PlayerEvent,
  resumeSchool,
  type Settings,
  type Standing,
  standingOf,
  type Take,
} from '@isochron/core';
import { create } from 'zustand';
import { showCourse } from '../api/queries';
import { openTakeAudio, type TakeAudio } from '../audio/take-audio';
import { sendUnsent, setActiveTake } from '../recorder/outbox';
import { forgetTake, keepTake } from '../recorder/safe-store';
import { enter, presentSitting, stand } from './sitting';

/** What a take is begun with. */
export interface Beginning {
  passage: Passage;
  course: Course;
  drill: Drill;
  startBpm: number;
  settings: Settings;
  /** Where a take that was broken off stood, to go on from there. */
  from: Standing | null;
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
const NO_ROOM = 'The browser has no room left to keep this take. Free some disk space before the next one.';

/** What belongs to the take being played and is no one's to draw. */
interface Running {
  audio: TakeAudio;
  beginning: Beginning;
  startedAt: Date;
  endedAt: Date | null;
  clock: ReturnType<typeof setInterval>;
}

let running: Running | null = null;

const takeOf = (takeId: string, loop: LoopState, { audio, beginning, startedAt, endedAt }: Running): Take => {
  const { passage, course, drill, settings } = beginning;
  return makeTake({
    id: takeId,
    sittingId: presentSitting().id,
    passage,
    course,
    startedAt,
    endedAt,
    input: settings.input,
    ...loop.aim,
    school: standingOf(loop.ladder.school),
    tolerance: settings.tolerance,
    latencyS: audio.latencyS,
    profileId: audio.profileId,
    drills: [drill],
    repetitions: loop.repetitions,
  });
};

export const useBench = create<Bench>((set, get) => {
  /** Keeps the take in the browser; it goes to the server once it is complete. */
  const keep = async (complete: boolean) => {
    const { takeId, loop } = get();
    if (!running || !takeId || loop.repetitions.length === 0) return;
    const take = takeOf(takeId, loop, running);
    const standing = {
      takeId,
      repetitions: loop.repetitions.length,
      tempo: loop.tempo,
      school: standingOf(loop.ladder.school),
    };
    stand(complete ? null : standing);
    try {
      await keepTake({ sitting: presentSitting(), take, complete });
    } catch {
      set({ remark: NO_ROOM });
    }
  };

  const finish = async () => {
    const over = running;
    if (!over) return;
    clearInterval(over.clock);
    over.endedAt = new Date();
    await over.audio.close();
    const { takeId, loop } = get();
    // What the take leaves for its course is shown at once, whether or not the server is there.
    if (takeId) showCourse(afterTake(over.beginning.course, takeOf(takeId, loop, over)));
    await keep(true);
    if (takeId && loop.repetitions.length === 0) {
      stand(null);
      // Stopped before its first verdict: its sound belongs to nothing.
      await forgetTake(takeId).catch(() => {});
    }
    setActiveTake(null);
    await sendUnsent();
    // An answer about ease may still come for the last repetition, until something else begins.
  };

  const carryOut: { [Type in LoopEffect['type']]: (effect: Extract<LoopEffect, { type: Type }>) => void } = {
    schedule: ({ plan, repetition, offset }) => {
      if (!running) return;
      const { drill, settings } = running.beginning;
      running.audio.schedule({ plan, repetition, offset, drill, tolerance: settings.tolerance });
    },
    silence: () => running?.audio.silence(),
    announce: ({ action }) => {
      if (running?.beginning.settings.announce) running.audio.announce(action);
    },
    keep: () => void (running?.endedAt ? keep(true).then(sendUnsent) : keep(false)),
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
      const { course, drill, settings, from, startBpm } = beginning;
      const takeId = crypto.randomUUID();
      running = null;
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
        running = { audio, beginning, startedAt: new Date(), endedAt: null, clock };
        enter({ course: keyOf(course), methodId: course.methodId, schoolId: course.schoolId }, takeId);
        dispatch({
          type: 'begin',
          drill,
          aim: { goalBpm: course.goalBpm, startBpm },
          school: from
            ? resumeSchool(course.schoolId, from.school)
            : beginSchool(course.schoolId, course.schools[course.schoolId] ?? null),
          tempo: from?.tempo ?? constantTempo(startBpm),
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
      // Once the audio is closed its clock stands; what can still be said needs no time.
      dispatch({ ...event, nowS: running.endedAt ? 0 : running.audio.nowS() });
    },

    clear() {
      if (isRunning()) return;
      running = null;
      set({ loop: IDLE, takeId: null, trouble: '', remark: '', peakDb: null });
    },
  };
});
