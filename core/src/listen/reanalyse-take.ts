import { ENGINE_VERSION } from '../engine-version';
import type { SoundSource } from '../formats/sound-source';
import { storedFigures } from '../measure/analyse-repetition';
import { editRepetition, storedContext } from '../measure/remeasure';
import type { Drill } from '../schema/grid';
import type { Repetition, Take } from '../schema/take';
import { countInS, planRepetition } from '../time/repetition-plan';
import { createListener } from './listener';

const BLOCK = 4096;
/** Listening goes on this long after the last bar. */
const AFTER_S = 1;

/** One repetition heard anew from the recording, as it was heard while it was played; corrections by hand are made again. */
const reanalyseRepetition = (take: Take, repetition: Repetition, sound: SoundSource): Repetition => {
  const { tempo, downbeatS } = repetition;
  const drill = take.drills[repetition.drill] as Drill;
  const startS = downbeatS - countInS(drill, tempo);
  const plan = planRepetition({ drill, tempo, startS });
  const listener = createListener(sound.sampleRateHz);
  const hearsClicks = take.input === 'microphone';
  const context = storedContext(take, repetition);
  listener.expect({ ...context, plan, repetition: repetition.index, hearsClicks });
  const from = Math.max(0, Math.round(startS * sound.sampleRateHz));
  const to = Math.round((plan.endS + AFTER_S) * sound.sampleRateHz);
  for (let at = from; at < to; at += BLOCK) {
    // Past the recording's end there is quiet, so that the listener comes to a close.
    const block = new Float32Array(BLOCK);
    block.set(sound.read(at, at + BLOCK));
    const heard = listener.push(block, at);
    if (!heard) continue;
    const { edits = [], ...rest } = repetition;
    const anew: Repetition = { ...rest, ...storedFigures(heard.analysed) };
    return edits.reduce((edited, edit) => editRepetition(take, edited, edit), anew);
  }
  return repetition;
};

/**
 * A stored take measured anew from its recording by this version of the engine. Tempos and decisions stay as they were: they
 * are what happened. `onProgress` is told how many repetitions are done; it may throw to stop.
 */
export const reanalyseTake = (
  take: Take,
  sound: SoundSource,
  onProgress: (done: number, of: number) => void = () => {},
): Take => {
  const repetitions = take.repetitions.map((repetition, k) => {
    const anew = repetition.verdict.reason === 'gap' ? repetition : reanalyseRepetition(take, repetition, sound);
    onProgress(k + 1, take.repetitions.length);
    return anew;
  });
  return { ...take, engine: ENGINE_VERSION, repetitions };
};
