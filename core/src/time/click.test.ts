import { describe, expect, it } from 'vitest';
import { firstDrill } from '../plan/course-of';
import { readyPassage } from '../rhythm/ready-passages';
import type { Passage } from '../schema/passage';
import { mixInto } from '../signal/mix';
import { constantTempo } from '../time/tempo-map';
import { clickWaveforms, placeClicks } from './click';
import { planRepetition } from './repetition-plan';

const RENDER_QUANTUM = 128;

/** Renders clicks as the audio thread does: block by block. */
const render = (sampleRateHz: number, tempoBpm: number): { sound: Float32Array; timesS: number[] } => {
  const drill = firstDrill(readyPassage('rolling-threes') as Passage);
  const { clicks, endS } = planRepetition({ drill, tempo: constantTempo(tempoBpm), startS: 0.0137 });
  const sounds = placeClicks(clicks, sampleRateHz, clickWaveforms(sampleRateHz));
  const sound = new Float32Array(Math.ceil((endS * sampleRateHz) / RENDER_QUANTUM) * RENDER_QUANTUM);
  for (let frame = 0; frame < sound.length; frame += RENDER_QUANTUM) {
    const block = sound.subarray(frame, frame + RENDER_QUANTUM);
    for (const placed of sounds) mixInto(block, frame, placed);
  }
  return { sound, timesS: clicks.map((click) => click.timeS) };
};

describe('the rendered click', () => {
  it.each([
    [44_100, 61],
    [48_000, 97.3],
    [96_000, 143],
  ])('starts on the sample nearest its time: jitter 0 (at %i Hz, %f bpm)', (sampleRateHz, tempoBpm) => {
    const { sound, timesS } = render(sampleRateHz, tempoBpm);
    for (const timeS of timesS) {
      const frame = Math.round(timeS * sampleRateHz);
      // The first sample of a click is its loudest step; the one before it is silence.
      expect(Math.abs(sound[frame] as number)).toBeGreaterThan(0.1);
      expect(sound[frame - 1]).toBe(0);
    }
  });

  it('is the same whatever blocks it is rendered in', () => {
    const { sound } = render(48_000, 88);
    const drill = firstDrill(readyPassage('rolling-threes') as Passage);
    const { clicks } = planRepetition({ drill, tempo: constantTempo(88), startS: 0.0137 });
    const whole = new Float32Array(sound.length);
    for (const placed of placeClicks(clicks, 48_000, clickWaveforms(48_000))) mixInto(whole, 0, placed);
    expect(Buffer.from(whole.buffer).equals(Buffer.from(sound.buffer))).toBe(true);
  });

  it('tells bars, beats and divisions apart', () => {
    const { bar, beat, division } = clickWaveforms(48_000);
    const energy = (wave: Float32Array) => wave.reduce((sum, value) => sum + value * value, 0);
    expect(energy(bar)).toBeGreaterThan(energy(beat));
    expect(energy(beat)).toBeGreaterThan(4 * energy(division));
  });
});
