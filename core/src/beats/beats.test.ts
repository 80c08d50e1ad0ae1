import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { Onset } from '../schema/measures';
import { chance } from '../stats/random';
import { addBeat, doubleBeats, halveBeats, moveBeat, removeBeat, shiftBeats, tapBeats } from './edit-beats';
import { findBeats } from './find-beats';
import { beatEvenness } from './unevenness';

const LENGTH_S = 30;
/** Onsets on beats and between them, as a few instruments would play them; `courseOf` gives the tempo at a time. */
const played = (configOf: (timeS: number) => number, seed: number) => {
  const { uniform, normal } = chance(seed);
  const beats: number[] = [];
  for (let timeS = 0.8; timeS < LENGTH_S - 0.5; timeS += 60 / configOf(timeS)) beats.push(timeS);
  const onsets: Onset[] = beats.flatMap((beatS, k) => {
    const stepS = (beats[k + 1] ?? beatS + 0.5) - beatS;
    return [
      ...(uniform() < 0.92 ? [{ timeS: beatS + 0.005 * normal(), levelDb: -12 - 4 * uniform() }] : []),
      ...(uniform() < 0.5 ? [{ timeS: beatS + stepS / 2 + 0.005 * normal(), levelDb: -20 - 4 * uniform() }] : []),
    ];
  });
  return { beats, onsets: onsets.sort((a, b) => a.timeS - b.timeS) };
};
const withinShare = (beats: readonly number[], found: readonly number[]) =>
  beats.filter((beat) => found.some((one) => Math.abs(one - beat) < 0.04)).length / beats.length;

describe('beats of a recording', () => {
  it.each([
    ['steady at 72', () => 72],
    ['steady at 132', () => 132],
    ['growing faster', (timeS: number) => 90 + timeS],
    ['breathing', (timeS: number) => 104 * (1 + 0.05 * Math.sin(timeS / 2))],
  ])('are found where they are: %s', (_name, configOf) => {
    const { beats, onsets } = played(configOf, 5);
    const { timesS, support } = findBeats(onsets, LENGTH_S);
    expect(withinShare(beats, timesS)).toBeGreaterThan(0.95);
    expect(timesS.length).toBeLessThan(1.1 * beats.length);
    expect(support).toBeGreaterThan(0.8);
  });

  it('are none where nothing is played, and have little support where there is no beat', () => {
    expect(findBeats([], LENGTH_S)).toEqual({ timesS: [], support: 0 });
    const { uniform } = chance(8);
    const loose = Array.from({ length: 40 }, () => ({ timeS: LENGTH_S * uniform(), levelDb: -20 })).sort(
      (a, b) => a.timeS - b.timeS,
    );
    const found = findBeats(loose, LENGTH_S);
    expect(found.timesS).toEqual([...found.timesS].sort((a, b) => a - b));
    expect(found.support).toBeLessThan(0.75);
  });
});

describe('beats by hand', () => {
  const beats = [1, 2, 3, 4, 5];
  it('are doubled, halved from either, and moved to the off-beats', () => {
    expect(doubleBeats(beats)).toEqual([1, 1.5, 2, 2.5, 3, 3.5, 4, 4.5, 5]);
    expect(halveBeats(beats)).toEqual([1, 3, 5]);
    expect(halveBeats(beats, 1)).toEqual([2, 4]);
    expect(shiftBeats(beats)).toEqual([1.5, 2.5, 3.5, 4.5]);
    expect(halveBeats(doubleBeats(beats))).toEqual(beats);
  });

  it('are added, taken away, and moved between their neighbours', () => {
    expect(addBeat(beats, 2.5)).toEqual([1, 2, 2.5, 3, 4, 5]);
    expect(removeBeat(beats, 3.2)).toEqual([1, 2, 4, 5]);
    expect(moveBeat(beats, 2, 3.4)[2]).toBe(3.4);
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 4 }), fc.double({ min: -9, max: 9, noNaN: true }), (index, toS) => {
        const moved = moveBeat(beats, index, toS);
        expect(moved).toEqual([...moved].sort((a, b) => a - b));
      }),
    );
  });

  it('are tapped along: taps that are off go to the onsets that they mean, others stay taps', () => {
    const found = [0.2, 0.9, 1.7, 9, 10];
    const onsets = [1, 2, 3, 4.6];
    expect(tapBeats(found, [1.06, 1.9, 3.1, 4.02], onsets)).toEqual(
      [1, 2, 3, 4.02, 9, 10].flatMap((one) => (one === 1 ? [0.2, 1] : [one])),
    );
    expect(tapBeats(found, [1], onsets)).toEqual(found);
  });
});

describe('how even beats are', () => {
  it('tells tempo, drift and the unsteadiness of single beats apart', () => {
    const { normal } = chance(3);
    const steady = Array.from({ length: 200 }, (_, k) => k * 0.5);
    expect(beatEvenness(steady)).toMatchObject({ bpm: 120 });
    expect(beatEvenness(steady)?.unsteadinessMs).toBeCloseTo(0, 6);
    expect(beatEvenness(steady.map((timeS) => timeS + 0.01 * normal()))?.unsteadinessMs).toBeCloseTo(10, -0.5);
    const faster = beatEvenness(steady.map((timeS) => timeS - timeS ** 2 / 1000));
    expect(faster?.fastestBpm).toBeGreaterThan((faster?.slowestBpm ?? 0) * 1.15);
    expect(faster?.unsteadinessMs).toBeLessThan(1);
    expect(beatEvenness([1, 2, 3])).toBeNull();
  });
});
