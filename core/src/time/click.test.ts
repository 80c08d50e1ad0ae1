import { describe, expect, it } from 'vitest';
import { firstDrill } from '../plan/practice-config';
import { builtInPassage } from '../rhythm/built-in-passages';
import { beats, writeBeats } from '../schema/beats';
import type { ClickPlan } from '../schema/grid';
import { type Passage, PassageSchema } from '../schema/passage';
import type { ClickSound } from '../schema/settings';
import { mixInto } from '../signal/mix';
import { CLICK_SOUNDS, clickWaveforms, placeClicks } from './click';
import { beamStarts, groupings, usualGroups } from './groupings';
import { planRepetition } from './repetition-plan';
import { constantTempo } from './tempo-map';

const RENDER_QUANTUM = 128;

/** Renders clicks as the audio thread does: block by block. */
const render = (sampleRateHz: number, tempoBpm: number): { sound: Float32Array; timesS: number[] } => {
  const drill = firstDrill(builtInPassage('rolling-threes') as Passage);
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
    const drill = firstDrill(builtInPassage('rolling-threes') as Passage);
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

describe('sounds and accents', () => {
  const sounds = Object.keys(CLICK_SOUNDS) as ClickSound[];
  const level = (wave: Float32Array) => Math.max(...wave.map(Math.abs));

  it.each(sounds)('%s begins on its sample, and is told apart from the others', (sound) => {
    const voice = { sound, accentDb: 6, accentHigher: true };
    const { bar, beat, division } = clickWaveforms(48_000, voice);
    for (const wave of [bar, beat, division]) {
      expect(Math.abs(wave[0] as number)).toBeCloseTo(level(wave), 6);
      expect(level(wave)).toBeLessThanOrEqual(1);
      expect(Math.abs(wave.at(-1) as number)).toBeLessThan(0.01);
    }
    expect(20 * Math.log10(level(bar) / level(beat))).toBeCloseTo(6, 1);
    for (const other of sounds.filter((one) => one !== sound))
      expect(clickWaveforms(48_000, { ...voice, sound: other }).beat).not.toEqual(beat);
  });

  it('the first of the bar is as loud and as high as the others where that is wished', () => {
    const { bar, beat } = clickWaveforms(48_000, { sound: 'knock', accentDb: 0, accentHigher: false });
    expect(bar).toEqual(beat);
  });
});

describe('where it clicks', () => {
  const passage = (count: number, unit: number, beatUnit: string, bars = 4): Passage =>
    PassageSchema.parse({
      id: 'any',
      title: 'Any',
      about: '',
      beatUnit,
      pickup: '0',
      meters: [{ at: '0', count, unit }],
      keys: [{ at: '0', fifths: 0 }],
      staves: [{ clef: 'treble' }],
      bars,
      goalBpm: 100,
      notes: Array.from({ length: bars }, (_, bar) => ({
        id: `n${bar}`,
        at: writeBeats(beats(count).div(unit).div(beats(beatUnit)).mul(bar)),
        length: '1/2',
        pitch: null,
        staff: 1,
        voice: 1,
      })),
    });
  /** The beats at which it clicks while the player plays, and how. */
  const clicked = (of: Passage, plan: Partial<ClickPlan> & Pick<ClickPlan, 'kind'>) => {
    const drill = { ...firstDrill(of), click: { divisions: 2, countInBars: 1, ...plan } };
    const planned = planRepetition({ drill, tempo: constantTempo(60), startS: 0 });
    return planned.clicks
      .filter(({ timeS }) => timeS >= planned.downbeatS - 1e-9)
      .map(({ timeS, kind }) => `${Math.round(1000 * (timeS - planned.downbeatS)) / 1000}${kind === 'bar' ? '!' : ''}`);
  };

  it('on the groups of uneven and compound meters, as they are usual or as the player groups them', () => {
    // At 60 a crotchet is a second, a quaver half of it.
    expect(clicked(passage(7, 8, '1/4', 1), { kind: 'group' })).toEqual(['0!', '1', '2']);
    expect(clicked(passage(7, 8, '1/4', 1), { kind: 'group', groups: [3, 2, 2] })).toEqual(['0!', '1.5', '2.5']);
    expect(clicked(passage(6, 8, '3/8', 1), { kind: 'group' })).toEqual(['0!', '1']);
    expect(clicked(passage(5, 4, '1/4', 1), { kind: 'group' })).toEqual(['0!', '2']);
  });

  it('on the first of every few bars, and on every note', () => {
    expect(clicked(passage(4, 4, '1/4'), { kind: 'bars', everyBars: 2 })).toEqual(['0!', '8!']);
    expect(clicked(passage(4, 4, '1/4'), { kind: 'note' })).toEqual(['0!', '4!', '8!', '12!']);
  });

  it('every grouping fills its bar', () => {
    for (const units of [2, 3, 4, 5, 6, 7, 8, 9, 10, 11, 12]) {
      const all = groupings(units);
      expect(all.length).toBeGreaterThan(0);
      for (const sizes of all) expect(sizes.reduce((sum, size) => sum + size, 0)).toBe(units);
      expect(all.map(String)).toContain(String(usualGroups(units)));
    }
    expect(groupings(7)).toEqual([
      [2, 2, 3],
      [2, 3, 2],
      [3, 2, 2],
    ]);
  });
});

describe('beams', () => {
  // As engravers group short notes (common practice).
  it.each([
    [4, 4, '1/4', '0 1 2 3'],
    [2, 2, '1/4', '0 2'],
    [6, 8, '1/4', '0 3/2'],
    [6, 8, '3/8', '0 1'],
    [9, 8, '1/8', '0 3 6'],
    [7, 8, '1/8', '0 2 4'],
    [5, 8, '1/8', '0 2'],
    [3, 8, '1/8', '0'],
  ] as const)('of a bar of %i/%i begin with its beats, in beats of %s', (count, unit, beatUnit, starts) => {
    expect(
      beamStarts({ at: '0', count, unit }, beatUnit)
        .map((start) => start.toFraction())
        .join(' '),
    ).toBe(starts);
  });
});
