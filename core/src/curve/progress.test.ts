import { describe, expect, it } from 'vitest';
import type { ProgressRepetitions } from '../schema/api';
import { chance } from '../stats/random';
import { periodDaysFor, progressOf } from './progress';

const TAKE = '00000000-0000-4000-a000-000000000001';

/** A player whose edge and unsteadiness move by stretch: tries around the edge in every stretch that `plays` names. */
const played = (options: {
  periods: number;
  edge: (period: number) => number;
  spread?: (period: number) => number;
  seed?: number;
  repetitions?: number;
  bpms?: (period: number) => number[];
}): ProgressRepetitions => {
  const { periods, edge, spread = () => 8, seed = 1, repetitions = 40, bpms } = options;
  const { uniform, normal } = chance(seed);
  return {
    from: '2026-01-05',
    to: '2026-12-31',
    periodDays: 7,
    repetitions: Array.from({ length: periods }, (_, period) =>
      Array.from({ length: repetitions }, (__, k) => {
        const choices = bpms?.(period);
        const bpm = choices ? (choices[k % choices.length] as number) : edge(period) * (0.85 + 0.3 * uniform());
        const toleranceUsage = 0.97 * (bpm / edge(period)) ** 2 * Math.exp(0.12 * normal());
        return {
          takeId: TAKE,
          period,
          bpm,
          outcome: toleranceUsage <= 1 ? ('clean' as const) : ('close' as const),
          toleranceUsage,
          spreadMs: Math.max(0.5, spread(period) + 0.8 * normal()),
          notes: 17,
          repetitionKind: null,
          breakBpm: null,
          breakLow: null,
          breakHigh: null,
        };
      }),
    ).flat(),
  };
};

describe('stretches of a history', () => {
  it('are as short as leaves few enough of them', () => {
    expect(periodDaysFor('2026-01-01', '2026-01-20')).toBe(7);
    expect(periodDaysFor('2026-01-01', '2026-12-31')).toBe(7);
    expect(periodDaysFor('2025-01-01', '2026-12-31')).toBe(28);
    expect(periodDaysFor('2016-01-01', '2026-12-31')).toBe(91);
    for (const to of ['2026-01-01', '2031-05-05', '2150-01-01']) {
      const days = (Date.parse(to) - Date.parse('2026-01-01')) / 86_400_000 + 1;
      expect(days / periodDaysFor('2026-01-01', to)).toBeLessThanOrEqual(56);
    }
  });
});

describe('a passage over time', () => {
  it('shows an edge that was planted where it was, rising, with its range about it', () => {
    const edge = (period: number) => 80 + 4 * period;
    const { points } = progressOf(played({ periods: 8, edge }));
    expect(points.map(({ from }) => from)[2]).toBe('2026-01-19');
    const inside = points.filter(
      (point, k) => point.edge && point.edge.low <= edge(k) * 1.03 && point.edge.high >= edge(k) * 0.97,
    );
    expect(inside.length).toBeGreaterThanOrEqual(7);
    for (const { easy, edge: found } of points) if (easy && found) expect(easy.bpm).toBeLessThanOrEqual(found.bpm);
    expect(points.at(-1)?.edge?.bpm).toBeGreaterThan((points[0]?.edge?.bpm ?? 999) + 15);
  });

  it('shows no rise where nothing was planted', () => {
    const { points } = progressOf(played({ periods: 8, edge: () => 90, seed: 5 }));
    const edges = points.flatMap(({ edge }) => edge?.bpm ?? []);
    expect(edges.length).toBeGreaterThan(5);
    expect(Math.max(...edges) - Math.min(...edges)).toBeLessThan(9);
  });

  it('compares the spread at one tempo, though the tempos that are played go up', () => {
    // Faster every week with the same unsteadiness at 60, which is played every week; at the fast end it is wider.
    const bpms = (period: number) => [60, 60, 62, 80 + 5 * period, 80 + 5 * period];
    const { points, spreadAround } = progressOf(played({ periods: 6, edge: () => 120, bpms, spread: (k) => 12 - k }));
    expect(spreadAround?.lowBpm).toBe(60);
    expect(spreadAround?.highBpm).toBeLessThan(66);
    const spreads = points.map(({ spreadMs }) => spreadMs?.value ?? 0);
    expect(spreads[0]).toBeCloseTo(12, 0);
    expect(spreads[5]).toBeCloseTo(7, 0);
    expect(points[0]?.spreadMs?.low).toBeLessThan(12.5);
  });

  it('leaves empty stretches out, and has no spread where no tempo comes twice', () => {
    const some = played({ periods: 1, edge: () => 90 });
    const later = {
      ...some,
      repetitions: [...some.repetitions, ...some.repetitions.map((one) => ({ ...one, period: 9, bpm: one.bpm * 3 }))],
    };
    const { points, spreadAround } = progressOf(later);
    expect(points.map(({ from }) => from)).toEqual(['2026-01-05', '2026-03-09']);
    expect(spreadAround).toBeNull();
    expect(progressOf({ ...some, repetitions: [] })).toEqual({ points: [], spreadAround: null });
  });

  it('tells where the last sweep of a stretch came apart, and counts it for nothing else', () => {
    const some = played({ periods: 1, edge: () => 90 });
    const sweep = {
      ...(some.repetitions[0] as ProgressRepetitions['repetitions'][number]),
      repetitionKind: 'sweep' as const,
      breakBpm: 101,
      breakLow: 97,
      breakHigh: 105,
    };
    const { points } = progressOf({ ...some, repetitions: [...some.repetitions, { ...sweep, bpm: 300, outcome: 'clean' }] });
    expect(points[0]?.broke).toEqual({ bpm: 101, low: 97, high: 105 });
    expect(points[0]?.bestCleanBpm).toBeLessThan(120);
  });
});
