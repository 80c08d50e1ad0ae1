import { describe, expect, it } from 'vitest';
import { simulatePlaying } from '../player/simulate';
import { STEADY } from '../schema/skill';
import { chance } from '../stats/random';
import { openTempo } from '../time/tempo-map';
import { awkwardTempo } from './awkward-tempo';
import type { SweptNote } from './break-tempo';
import { sweptNotes } from './swept-notes';

const BEATS = 48;
/** An arc as the method has it: slow, up, down, slow. */
const ARC = {
  kind: 'ramp' as const,
  points: [
    [0, 72],
    [0.3, 72],
    [0.5, 120],
    [0.55, 120],
    [0.75, 72],
    [1, 72],
  ].map(([share, bpm]) => ({ beat: (share as number) * BEATS, bpm: bpm as number })),
};
const map = openTempo(ARC);
const EXPECTED = Array.from({ length: 4 * BEATS }, (_, k) => ({ index: k, beat: k / 4, timeS: map.timeOf(k / 4) }));

/** Runs of a player whose unsteadiness at a tempo is given, in ms; a slip now and then. */
const runsOf = (unsteadinessMs: (bpm: number) => number, count: number, seed: number, slips = 0.01): SweptNote[][] => {
  const { normal, uniform } = chance(seed);
  return Array.from({ length: count }, () => {
    const notes = EXPECTED.map(({ index, beat }) => ({
      index,
      deviationMs: unsteadinessMs(map.tempoAt(beat)) * normal() + (uniform() < slips ? 60 : 0),
    }));
    return sweptNotes(notes, EXPECTED);
  });
};

const awkwardAt = (bpm: number, times: number) => (own: number) => (Math.abs(own / bpm - 1) < 0.05 ? 6 * times : 6);

describe('an awkward tempo in arcs', () => {
  it('is found where it was planted', () => {
    const found = Array.from({ length: 40 }, (_, k) => ({
      planted: 82 + (k % 25),
      got: awkwardTempo(runsOf(awkwardAt(82 + (k % 25), 2.5), 4, k + 1)),
    }));
    const near = found.filter(({ planted, got }) => got && Math.abs(got.bpm / planted - 1) < 0.06);
    expect(near.length).toBeGreaterThanOrEqual(34);
  });

  it('is not named in players without one: even, worse with the tempo, slipping now and then', () => {
    const kinds: ((bpm: number) => number)[] = [() => 6, (bpm) => 4 * (bpm / 72) ** 2, (bpm) => (bpm > 100 ? 14 : 5)];
    let named = 0;
    for (let k = 0; k < 120; k += 1) {
      const kind = kinds[k % kinds.length] as (bpm: number) => number;
      if (awkwardTempo(runsOf(kind, 2 + (k % 4), 500 + k, k % 2 ? 0.03 : 0))) named += 1;
    }
    expect(named).toBeLessThanOrEqual(6);
  });

  it('is not named in the simulated player, whose unsteadiness it was never set on', () => {
    let named = 0;
    for (let k = 0; k < 60; k += 1) {
      const runs = [0, 1, 2].map((run) => {
        const planned = EXPECTED.map((one, n) => ({
          ...one,
          intervalS: (EXPECTED[n + 1]?.timeS ?? one.timeS + 0.2) - one.timeS,
          accent: false,
        }));
        const played = simulatePlaying(planned, { ...STEADY, spreadMs: 10 }, ARC, 100 * k + run);
        const heard = new Map(played.map(({ expected, timeS }) => [expected, timeS]));
        const notes = planned.map(({ index, timeS }) => {
          const onsetS = heard.get(index);
          return { index, deviationMs: onsetS === undefined ? null : 1000 * (onsetS - timeS) };
        });
        return sweptNotes(notes, EXPECTED);
      });
      if (awkwardTempo(runs)) named += 1;
    }
    expect(named).toBeLessThanOrEqual(4);
  });

  it('is not sought in a single way, nor in too few notes', () => {
    const [run = []] = runsOf(awkwardAt(95, 4), 1, 3);
    expect(awkwardTempo([run.slice(0, run.length / 2)])).toBeNull();
    expect(awkwardTempo([])).toBeNull();
  });
});
