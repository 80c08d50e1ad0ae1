import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { builtInPassage } from '../rhythm/built-in-passages';
import type { Measures } from '../schema/measures';
import type { Passage } from '../schema/passage';
import { type PracticeConfig, PracticeConfigSchema, practiceConfigId } from '../schema/practice-config';
import { makeReason } from '../schema/reason';
import { DEFAULT_SETTINGS } from '../schema/settings';
import type { Ease, Take } from '../schema/take';
import { TEMPO_RANGE_BPM } from '../schema/tempo';
import type { Outcome } from '../schema/verdict';
import { notchesFrom } from '../time/marks';
import { constantTempo } from '../time/tempo-map';
import { describeReason } from '../words/describe-reason';
import { nextStart } from './next-start';
import { afterTake, drillOf, firstDrill, newPracticeConfig, practiceConfigOf } from './practice-config';
import { startTempo } from './start-tempo';
import { summariseTake } from './summarise-take';

describe('the start tempo', () => {
  it('is half the goal on a first day, at a mark', () => {
    expect(startTempo(120, null).bpm).toBe(60);
    expect(startTempo(132, null).bpm).toBe(66);
  });

  it('keeps to a slow floor, but never above the goal', () => {
    expect(startTempo(60, null).bpm).toBe(40);
    expect(startTempo(30, null).bpm).toBe(30);
  });

  it('is where the last take said, and not above the goal', () => {
    const last = { nextStartBpm: 92, nextStartWhy: makeReason('start-under-clean', { best: 100 }) };
    expect(startTempo(120, last)).toEqual({ bpm: 92, why: last.nextStartWhy });
    expect(startTempo(80, last).bpm).toBe(80);
  });

  it('says of a first day only what is so, for every goal', () => {
    for (let goal = TEMPO_RANGE_BPM.min; goal <= TEMPO_RANGE_BPM.max; goal += 1) {
      const start = startTempo(goal, null);
      expect(start.bpm).toBeLessThanOrEqual(goal);
      if (start.why.code === 'start-half-goal') expect(Math.abs(start.bpm - goal / 2)).toBeLessThanOrEqual(4);
    }
  });
});

const repetition = (bpm: number, outcome: Outcome, part: { ease?: Ease; toleranceUsage?: number } = {}) => ({
  tempo: constantTempo(bpm),
  verdict: { outcome, reason: 'none' as const, why: makeReason('none') },
  ease: part.ease ?? null,
  measures: { toleranceUsage: part.toleranceUsage ?? 1 } as Measures,
});

describe('where to begin next time', () => {
  const next = (repetitions: readonly ReturnType<typeof repetition>[], goal = 200, start = 60) =>
    nextStart(repetitions, goal, start);

  it('is a little under the fastest that was clean and not tense', () => {
    expect(next([repetition(60, 'clean'), repetition(100, 'clean'), repetition(104, 'not-yet')]).bpm).toBe(92);
    // Clean to 130 and one relaxed clean one at 80: not eight notches under that.
    expect(next([repetition(125, 'clean'), repetition(130, 'clean'), repetition(80, 'clean', { ease: 'easy' })]).bpm).toBe(120);
    expect(next([repetition(100, 'clean'), repetition(120, 'clean', { ease: 'tense' })]).bpm).toBe(92);
    expect(next([repetition(280, 'clean')], 300, 200).bpm).toBe(266);
  });

  it('does not sink where little is played', () => {
    let start = 100;
    for (let day = 0; day < 10; day += 1) start = next([repetition(start, 'clean')], 200, start).bpm;
    expect(start).toBe(100);
  });

  it('is where it would be clean, where nothing was', () => {
    const far = next(
      [repetition(105, 'not-yet', { toleranceUsage: 2 }), repetition(105, 'not-yet', { toleranceUsage: 2.2 })],
      200,
      105,
    );
    expect(far.bpm).toBeGreaterThan(80);
    expect(far.bpm).toBeLessThan(92);
    expect(next([repetition(105, 'close', { toleranceUsage: 1.05 })], 200, 105).bpm).toBe(100);
  });

  it('keeps to its word, whatever was played', () => {
    const played = fc.array(
      fc.record({
        bpm: fc.integer(TEMPO_RANGE_BPM),
        outcome: fc.constantFrom<Outcome>('clean', 'close', 'not-yet', 'broken', 'not-judged'),
        ease: fc.constantFrom<Ease | undefined>('easy', 'working', 'tense', undefined),
        toleranceUsage: fc.double({ min: 0, max: 12, noNaN: true }),
      }),
      { minLength: 1, maxLength: 12 },
    );
    fc.assert(
      fc.property(played, fc.integer(TEMPO_RANGE_BPM), fc.integer(TEMPO_RANGE_BPM), (list, goal, start) => {
        const all = list.map(({ bpm, outcome, ease, toleranceUsage }) => repetition(bpm, outcome, { ease, toleranceUsage }));
        const { bpm, why: reason } = nextStart(all, goal, Math.min(goal, start));
        const clean = list.filter(({ outcome, ease }) => outcome === 'clean' && ease !== 'tense').map((one) => one.bpm);
        expect(bpm).toBeGreaterThanOrEqual(TEMPO_RANGE_BPM.min);
        expect(bpm).toBeLessThanOrEqual(goal);
        if (clean.length > 0) expect(bpm).toBeLessThanOrEqual(Math.max(...clean));
        const { best = 0, bpm: said = bpm } = reason.values as { best?: number; bpm?: number };
        expect(said).toBe(bpm);
        if (reason.code === 'start-under-clean') expect(bpm).toBe(notchesFrom(best, -2));
        if (reason.code === 'start-share-under') expect(Math.abs(bpm - 0.95 * best)).toBeLessThanOrEqual(0.5);
        if (reason.code === 'start-none-clean') expect(clean).toEqual([]);
        if (reason.code === 'start-kept') expect(clean).toContain(bpm);
        if (reason.code === 'start-goal') expect(bpm).toBe(goal);
        expect(describeReason(reason, { noteNaming: 'british' })).toMatch(/\.$/);
      }),
      { numRuns: 3000 },
    );
  });
});

describe('summing up a take', () => {
  it('logs the best clean tempo and where to start next time', () => {
    const summary = summariseTake(
      {
        drills: [{}, { repetitionKind: 'sweep' }],
        repetitions: [
          repetition(80, 'clean'),
          repetition(85, 'clean'),
          // What a strategy asks for in between is no tempo of the passage.
          { ...repetition(140, 'clean'), drill: 1 },
          repetition(90, 'not-yet'),
          repetition(87, 'close'),
        ],
      },
      120,
      80,
    );
    expect(summary).toMatchObject({ bestCleanBpm: 85, closingBpm: 85, nextStartBpm: 80 });
  });

  it('closes at the last tempo where nothing was clean', () => {
    expect(
      summariseTake({ drills: [], repetitions: [repetition(80, 'broken'), repetition(77, 'not-yet')] }, 120, 80),
    ).toMatchObject({
      bestCleanBpm: null,
      closingBpm: 77,
    });
    expect(summariseTake({ drills: [], repetitions: [] }, 120, 60)).toBeNull();
  });
});

const five = builtInPassage('five-steps') as Passage;
const summary = {
  bestCleanBpm: 80,
  closingBpm: 80,
  nextStartBpm: 72,
  nextStartWhy: makeReason('start-under-closing', { summary: 80 }),
};
const TAKE_ID = '6ec0bd7f-11c0-43da-975e-2a8ad9ebae0b';
const takeAt = (startedAt: string, part: Partial<Take> = {}) =>
  ({
    id: TAKE_ID,
    startedAt,
    input: 'microphone',
    purpose: 'work',
    drills: [firstDrill(five)],
    goalBpm: 130,
    summary,
    strategy: { id: 'half-speed-climb', options: { stepBpm: 10 }, state: { failedInARow: 0, nudging: true, edgeBpm: 85 } },
    ...part,
  }) as Take;

describe('a configuration', () => {
  it('of a new passage has its goal and the player’s usual strategy with its options', () => {
    const settings = { ...DEFAULT_SETTINGS, strategyOptions: { 'half-speed-climb': { stepBpm: 10 } } };
    const config = newPracticeConfig(five, settings);
    expect(PracticeConfigSchema.safeParse(config).error).toBeUndefined();
    expect(config).toMatchObject({ goalBpm: 120, strategyId: 'half-speed-climb', last: null });
    expect(config.strategies['half-speed-climb']?.options).toEqual({ stepBpm: 10 });
    expect(practiceConfigId(config)).toBe('five-steps.first.whole');
    expect(practiceConfigOf([{ ...config, goalBpm: 99 }], five, settings).goalBpm).toBe(99);
  });

  it('keeps of a take its summary, its goal and what its strategy remembers; an older take and a file change nothing', () => {
    const config = afterTake(newPracticeConfig(five, DEFAULT_SETTINGS), takeAt('2026-03-02T10:00:00.000Z'));
    expect(config).toMatchObject({ goalBpm: 130, last: { takeId: TAKE_ID, summary } });
    expect(config.strategies['half-speed-climb']?.state).toMatchObject({ edgeBpm: 85 });
    expect(afterTake(config, takeAt('2026-03-01T10:00:00.000Z', { goalBpm: 60 }))).toBe(config);
    expect(afterTake(config, takeAt('2026-03-03T10:00:00.000Z', { input: 'file' }))).toBe(config);
  });

  it('leads to a drill: its section, its marks, its method, its click', () => {
    const passage: Passage = { ...five, sections: [{ id: 'turn', name: 'The turn', fromBar: 1, toBar: 1 }] };
    const config: PracticeConfig = {
      ...newPracticeConfig(passage, DEFAULT_SETTINGS),
      sectionId: 'turn',
      methodId: 'repeat-each',
      click: { kind: 'bar', divisions: 2, countInBars: 2 },
    };
    const drill = drillOf(passage, config);
    expect(drill.grid.bars).toBe(1);
    expect(drill.grid.events).toHaveLength(15 * 2 + 1);
    expect(drill.grid.events[2]?.notes[0]).toMatchObject({ from: 'n2', marks: { finger: '2' } });
    expect(drill.click).toEqual(config.click);
    expect(firstDrill(five).grid.events).toHaveLength(17);
  });
});
