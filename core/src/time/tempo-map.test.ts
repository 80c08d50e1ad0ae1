import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { analyseRepetition } from '../measure/analyse-repetition';
import { firstDrill } from '../plan/practice-config';
import { simulatePlaying } from '../player/simulate';
import { builtInPassage } from '../rhythm/built-in-passages';
import type { Passage } from '../schema/passage';
import { STEADY } from '../schema/skill';
import { TempoMapSchema } from '../schema/tempo';
import { TOLERANCE_PRESETS } from '../schema/tolerance';
import { profileOf } from '../signal/profiles';
import { sampleSd } from '../stats/summary';
import { clampTempo } from './clamp-tempo';
import { planRepetition } from './repetition-plan';
import { constantTempo, headlineBpm, openTempo } from './tempo-map';

const sweep = (fromBpm: number, toBpm: number, beats: number) => ({
  kind: 'ramp' as const,
  points: [
    { beat: 0, bpm: fromBpm },
    { beat: beats, bpm: toBpm },
  ],
});

/** Time by adding up small steps: the definition of the integral of 60/v. */
const summed = (map: ReturnType<typeof openTempo>, beat: number): number => {
  const steps = 20_000;
  let timeS = 0;
  for (let k = 0; k < steps; k += 1) timeS += (60 / map.tempoAt((beat * (k + 0.5)) / steps)) * (beat / steps);
  return timeS;
};

describe('tempo maps', () => {
  it('lay a constant tempo evenly', () => {
    const map = openTempo(constantTempo(90));
    expect(map.timeOf(3)).toBeCloseTo(2, 12);
    expect(map.beatOf(2)).toBeCloseTo(3, 12);
    expect(map.tempoAt(-4)).toBe(90);
  });

  it('integrate a ramp exactly, before, between and after its points', () => {
    const map = openTempo({
      kind: 'ramp',
      points: [
        { beat: 1, bpm: 60 },
        { beat: 5, bpm: 120 },
        { beat: 9, bpm: 60 },
      ],
    });
    for (const beat of [0.5, 1, 3, 5, 7.25, 9, 12]) expect(map.timeOf(beat)).toBeCloseTo(summed(map, beat), 6);
    expect(map.timeOf(-2)).toBeCloseTo(-2, 12);
    expect(map.tempoAt(3)).toBe(90);
    expect(map.tempoAt(20)).toBe(60);
    expect(map.headlineBpm).toBe(120);
  });

  it('lead there and back, and forward in time, whatever the points', () => {
    const points = fc
      .array(fc.record({ beat: fc.integer({ min: -20, max: 200 }), bpm: fc.integer({ min: 10, max: 400 }) }), {
        minLength: 1,
        maxLength: 8,
      })
      .map((list) => [...new Map(list.map((point) => [point.beat, point])).values()].sort((a, b) => a.beat - b.beat));
    fc.assert(
      fc.property(points, fc.double({ min: -30, max: 220, noNaN: true }), (list, beat) => {
        const document = TempoMapSchema.parse({ kind: 'ramp', points: list });
        const map = openTempo(document);
        expect(map.timeOf(0)).toBeCloseTo(0, 9);
        expect(map.beatOf(map.timeOf(beat))).toBeCloseTo(beat, 5);
        expect(map.timeOf(beat + 0.1)).toBeGreaterThan(map.timeOf(beat));
      }),
    );
  });

  it('are clamped point by point', () => {
    expect(headlineBpm(clampTempo(sweep(5, 900, 8)))).toBe(400);
    expect(clampTempo(constantTempo(3))).toEqual(constantTempo(10));
  });
});

describe('a repetition on a sweep', () => {
  const drill = firstDrill(builtInPassage('five-steps') as Passage);
  const tempo = sweep(60, 100, 8);
  const plan = planRepetition({ drill, tempo, startS: 0 });
  const analysed = (driftPct: number) => {
    const skill = { ...STEADY, placementMs: 0, spreadMs: 5, driftPct };
    const played = simulatePlaying(plan.notes, skill, tempo, 3);
    const measures = analyseRepetition(played, {
      drill,
      plan,
      profile: { ...profileOf('tap'), noiseSdMs: 0 },
      tolerance: TOLERANCE_PRESETS.secure,
      latencyS: 0,
      offset: { nearS: 0, reachS: 0.06 },
      gap: false,
    });
    const plantedMs = played.map((note, k) => 1000 * (note.timeS - (plan.notes[k]?.timeS ?? 0)));
    return { ...measures, plantedMs };
  };

  it('is counted in at its first tempo and clicked along the ramp', () => {
    expect(plan.downbeatS).toBe(4);
    const map = openTempo(tempo);
    const beats = plan.clicks.filter((click) => click.timeS >= 4 - 1e-9).map((click) => map.beatOf(click.timeS - 4));
    for (const [k, beat] of beats.entries()) expect(beat).toBeCloseTo(k, 9);
  });

  it('is measured against the moving grid: planted deviations come back, and moving is no drift', () => {
    const { measures, verdict, plantedMs } = analysed(0);
    expect(measures.spreadMs?.value).toBeCloseTo(sampleSd(plantedMs), 6);
    expect(Math.abs(measures.driftPct ?? 9)).toBeLessThan(0.5);
    expect(verdict.outcome).toBe('clean');
  });

  it('tells a drag along the ramp as a share of the tempo', () => {
    expect(analysed(1.5).measures.driftPct).toBeCloseTo(1.5, 0);
  });
});
