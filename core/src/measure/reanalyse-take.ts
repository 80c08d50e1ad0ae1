import { ENGINE_VERSION } from '../engine-version';
import { barBeats } from '../rhythm/exercise-shape';
import type { Exercise } from '../schema/exercise';
import type { Repetition, Take } from '../schema/take';
import { createListener } from '../session/listener';
import { planRepetition } from '../time/repetition-plan';
import { beatS } from '../time/tempo';
import { storedFigures } from './analyse-repetition';
import { editRepetition, storedContext } from './remeasure';

const BLOCK = 4096;
/** Listening goes on this long after the last bar. */
const AFTER_S = 1;

/** One repetition heard anew from the recording, as it was heard while it was played; corrections by hand are made again. */
const reanalyseRepetition = (
  take: Take,
  repetition: Repetition,
  exercise: Exercise,
  samples: Float32Array,
  sampleRateHz: number,
): Repetition => {
  const { tempoBpm, downbeatS } = repetition;
  const barS = barBeats(exercise).valueOf() * beatS(tempoBpm);
  const plan = planRepetition({ exercise, tempoBpm, startS: downbeatS - barS, countInBars: 1 });
  const listener = createListener(sampleRateHz);
  const hearsClicks = take.input === 'microphone';
  const context = storedContext(take, repetition, exercise);
  listener.expect({ ...context, plan, repetition: repetition.index, hearsClicks });
  const from = Math.max(0, Math.round((downbeatS - barS) * sampleRateHz));
  const to = Math.round((plan.endS + AFTER_S) * sampleRateHz);
  for (let at = from; at < to; at += BLOCK) {
    // Past the recording's end there is quiet, so that the listener comes to a close.
    const block = new Float32Array(BLOCK);
    block.set(samples.subarray(at, at + BLOCK));
    const heard = listener.push(block, at);
    if (!heard) continue;
    const { edits = [], ...rest } = repetition;
    const anew: Repetition = { ...rest, ...storedFigures(heard.analysed) };
    return edits.reduce((edited, edit) => editRepetition(take, edited, exercise, edit), anew);
  }
  return repetition;
};

/**
 * A stored take measured anew from its recording by this version of the engine. Tempos and decisions stay as they were: they
 * are what happened. `onProgress` is told how many repetitions are done; it may throw to stop.
 */
export const reanalyseTake = (
  take: Take,
  exercise: Exercise,
  recording: { samples: Float32Array; sampleRateHz: number },
  onProgress: (done: number, of: number) => void = () => {},
): Take => {
  const repetitions = take.repetitions.map((repetition, k) => {
    const anew =
      repetition.verdict.reason === 'gap'
        ? repetition
        : reanalyseRepetition(take, repetition, exercise, recording.samples, recording.sampleRateHz);
    onProgress(k + 1, take.repetitions.length);
    return anew;
  });
  return { ...take, engine: ENGINE_VERSION, repetitions };
};
