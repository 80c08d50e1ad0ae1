import { makeDrill } from '../rhythm/methods/make-drill';
import type { Grid } from '../schema/grid';
import { mixInto } from '../signal/mix';
import { clickWaveforms, placeClicks } from '../time/click';
import { planRepetition } from '../time/repetition-plan';
import { constantTempo } from '../time/tempo-map';
import type { Instrument } from './instruments';
import { renderPlaying } from './render';

/** Level of the built-in voice, dB; an accent is louder. */
const LEVEL_DB = -16;
const ACCENT_DB = -9;

/**
 * A grid as sound, exactly in time, by the built-in voice; with its click where wished. The sound is as long as its bars, so that it can
 * be looped: `loopS` seconds, and the ringing of the last notes is folded into the beginning.
 */
export const renderHearing = (options: {
  grid: Grid;
  bpm: number;
  instrument: Instrument;
  sampleRateHz: number;
  withClick: boolean;
}): { samples: Float32Array; loopS: number } => {
  const { grid, bpm, instrument, sampleRateHz, withClick } = options;
  const drill = makeDrill('straight', {}, grid);
  const plan = planRepetition({ drill, tempo: constantTempo(bpm), startS: 0 });
  const first = Math.min(plan.downbeatS, plan.notes[0]?.timeS ?? plan.downbeatS);
  const loopS = plan.endS - first;
  const tailS = 1.5;
  const sound = renderPlaying({
    played: plan.notes.map(({ timeS, index, accent }) => ({
      timeS: timeS - first,
      expected: index,
      levelDb: accent ? ACCENT_DB : LEVEL_DB,
    })),
    grid,
    tempo: plan.tempo,
    instrument,
    sampleRateHz,
    lengthS: loopS + tailS,
    seed: 1,
  });
  if (withClick) {
    const heard = plan.clicks
      .filter(({ timeS }) => timeS >= first - 1e-9)
      .map((click) => ({ ...click, timeS: click.timeS - first }));
    for (const placed of placeClicks(heard, sampleRateHz, clickWaveforms(sampleRateHz))) mixInto(sound, 0, placed);
  }
  const samples = sound.slice(0, Math.round(loopS * sampleRateHz));
  for (let n = samples.length; n < sound.length && n - samples.length < samples.length; n += 1)
    samples[n - samples.length] = (samples[n - samples.length] as number) + (sound[n] as number);
  return { samples, loopS };
};
