import type { PassageRepetitions } from '@isochron/core/schema';
import { anyLearner, repetitionOf } from '@isochron/core/simulation';
import { describeReason } from '@isochron/core/words';
import { describe, expect, it, vi } from 'vitest';

// The worker's own end of the channel is not there in a test.
vi.mock('./expose-later', () => ({ exposeLater: () => {} }));
const { tempos } = await import('./tempos');

const NOW = Date.UTC(2026, 2, 20, 20);
const READER = { noteNaming: 'british' } as const;
const WHOLE = { variantId: 'first', sectionId: 'whole', name: 'the whole' };
const OTHER = { variantId: 'second', sectionId: 'whole', name: 'other fingering' };
const SECTION = { variantId: 'first', sectionId: 'bars-1-2', name: 'bars 1 and 2' };

const learner = { ...anyLearner(3), easyBpm: 90, growth: 3, slips: 0, gain: 0 };
const played = (
  bpm: number,
  k: number,
  own: { variantId: string; sectionId: string },
  faster = 1,
): PassageRepetitions[number] => {
  const { verdict, toleranceUsage } = repetitionOf({ ...learner, easyBpm: learner.easyBpm * faster }, bpm, 700 + k);
  return {
    takeId: `00000000-0000-4000-8000-0000000000${10 + Math.floor(k / 10)}`,
    startedAt: new Date(NOW - (40 - k) * 3_600_000).toISOString(),
    variantId: own.variantId,
    sectionId: own.sectionId,
    startBpm: 70,
    bpm,
    outcome: verdict.outcome,
    ease: null,
    toleranceUsage: verdict.outcome === 'broken' ? null : toleranceUsage,
    notes: 17,
    repetitionKind: null,
    breakBpm: null,
    breakLow: null,
    breakHigh: null,
  };
};
const spread = (own: typeof WHOLE, faster = 1) =>
  Array.from({ length: 40 }, (_, k) => played(Math.round(faster * (75 + ((k * 7) % 40))), k, own, faster));

describe('the tempos of a passage', () => {
  it('are drawn for each part from its own repetitions only', () => {
    const { curves } = tempos.curves([WHOLE, SECTION], [...spread(WHOLE), ...spread(SECTION, 0.7)], 120, NOW);
    const [whole, section] = curves;
    expect(whole?.points.length).toBeGreaterThan(20);
    expect(Math.min(...(whole?.points ?? []).map(({ bpm }) => bpm))).toBeGreaterThanOrEqual(75);
    expect(Math.max(...(section?.points ?? []).map(({ bpm }) => bpm))).toBeLessThan(85);
    // The edges come out in the order in which they were planted, and each easy tempo under its edge.
    expect(whole?.edge?.bpm).toBeGreaterThan((section?.edge?.bpm ?? 0) * 1.2);
    for (const { easy, edge } of curves) expect(easy?.bpm ?? 0).toBeLessThan(edge?.bpm ?? 0);
  });

  it('compare two ways to play it, the faster one with a chance on its side, and say nothing of one alone', () => {
    const both = tempos.curves([WHOLE, OTHER], [...spread(WHOLE), ...spread(OTHER, 1.25)], 140, NOW);
    expect(describeReason(both.compared ?? { code: '', values: {} }, READER)).toMatch(
      /“the whole” the edge lies about \d+ % below/,
    );
    expect(tempos.curves([WHOLE, OTHER], spread(WHOLE), 140, NOW).compared).toBeNull();
  });

  it('leave sweeps and bursts out of the curve, and show where the sweep broke', () => {
    const base = played(80, 3, WHOLE);
    const repetitionKinds: PassageRepetitions = [
      { ...base, repetitionKind: 'sweep', bpm: 200, outcome: 'broken', breakBpm: 101, breakLow: 98, breakHigh: 105 },
      { ...base, repetitionKind: 'burst', bpm: 190, outcome: 'clean' },
    ];
    const [plain] = tempos.curves([WHOLE], spread(WHOLE), 120, NOW).curves;
    const [with_] = tempos.curves([WHOLE], [...spread(WHOLE), ...repetitionKinds], 120, NOW).curves;
    expect(with_?.points).toEqual(plain?.points);
    expect(plain?.broke).toBeNull();
    expect(with_?.broke).toEqual({ bpm: 101, low: 98, high: 105 });
    expect(with_?.sides).toHaveLength(1);
    expect(with_?.sentences.map((one) => describeReason(one, READER)).at(-1)).toBe(
      'In the last sweep it came apart at about 101 (98 to 105).',
    );
  });

  it('say little where little was played', () => {
    const [curve] = tempos.curves([WHOLE], [played(80, 1, WHOLE)], 120, NOW).curves;
    expect(curve).toMatchObject({ easy: null, edge: null, unsteadiness: [] });
    expect(curve?.sentences.map((one) => describeReason(one, READER))).toEqual([
      'Too little was played lately to tell: 1 judged repetition so far.',
    ]);
    expect(tempos.curves([WHOLE], [], 120, NOW).curves[0]?.points).toEqual([]);
  });
});

describe('what each strategy would have asked for', () => {
  it('is one line a strategy, over the newest repetitions of the part', () => {
    const repetitions = [...spread(WHOLE), ...spread(WHOLE), ...spread(WHOLE), ...spread(WHOLE)];
    const { played: over, lines, sentence } = tempos.strategies(WHOLE, repetitions, 120);
    expect(over).toHaveLength(120);
    for (const line of lines) expect(line.askedBpm).toHaveLength(120);
    expect(sentence).not.toBeNull();
    expect(tempos.strategies(SECTION, repetitions, 120).lines).toEqual([]);
  });
});

describe('the day', () => {
  it('is said of today alone', () => {
    const today = spread(WHOLE).map((one) => ({ ...one, startedAt: new Date(NOW).toISOString() }));
    const told = tempos
      .day(WHOLE, [...today.slice(0, 20), ...spread(WHOLE)], 100, NOW)
      .map((one) => describeReason(one, READER));
    expect(told.join(' ')).toMatch(/Today slow to fast: \d+ to \d+ repetitions; up to \d+ is slow for you\./);
    const [, slow = '', fast = ''] = /fast: (\d+) to (\d+) rep/.exec(told.join(' ')) ?? [];
    // Hours before now belong to today as well, where they fall on it.
    const day = new Date(NOW).toISOString().slice(0, 10);
    const counted = [...today.slice(0, 20), ...spread(WHOLE)].filter(({ startedAt }) => startedAt.startsWith(day)).length;
    expect(Number(slow) + Number(fast)).toBe(counted);
    expect(tempos.day(WHOLE, [], 100, NOW)).toEqual([]);
  });
});
