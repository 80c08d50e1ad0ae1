import { anyLearner, LEARNERS, practiseWeeks, tempoOf } from '@isochron/core/simulation';
import { STRATEGIES } from '@isochron/core/strategy';
import { describe, expect, it } from 'vitest';
import { settleMany } from './settling';

const REPETITIONS = 100;

/** Strategies that lead over days, or by sweeps, show where they settle over weeks. */
const OVER_WEEKS = ['notch-by-notch', 'week-step', 'below-the-break'];
/** Ten in a row take a player who slips now and then many days: eight weeks bring them this far at least. */
const MIN_REACHED: Record<string, number> = { 'notch-by-notch': 0.65 };
/** How many learners of each kind; the strategy that works out a curve each time takes its time. */
const counts: Record<string, number> = { adaptive: 2 };

const within = STRATEGIES.map(({ id }) => id as string).filter((id) => id !== 'free' && !OVER_WEEKS.includes(id));

describe.each(within)('the strategy %s', (id) => {
  const learners = id in counts ? LEARNERS.slice(-1) : LEARNERS;
  it.each(learners.map((learner) => [learner.name, learner] as const))(
    'settles where a learner who %s is clean 6 to 9 in 10',
    (_, learner) => {
      const count = counts[id] ?? 8;
      const { reached, cleanShare, falseGoals, nextStartShare } = settleMany(id, learner, count, REPETITIONS);
      expect(reached).toBe(1);
      // Eight learners: two standard errors of a tenth.
      expect(cleanShare).toBeGreaterThanOrEqual(0.57);
      expect(cleanShare).toBeLessThanOrEqual(0.93);
      expect(falseGoals).toBeLessThanOrEqual(1 / count);
      expect(nextStartShare).toBeLessThanOrEqual(1.02);
      expect(nextStartShare).toBeGreaterThan(0.8);
    },
  );
});

describe.each(OVER_WEEKS)('the strategy %s over eight weeks', (id) => {
  it.each([11, 12, 13])('brings learner %i near to what could be, without a rule broken', (seed) => {
    const learner = anyLearner(seed);
    const goalBpm = Math.round(1.4 * (tempoOf(learner, 0.5, undefined, 100) as number));
    const { broken, cleanShare, reachedShare, oscillation } = practiseWeeks({
      strategyId: id,
      learner,
      goalBpm,
      weeks: 8,
      seed,
    });
    expect(broken).toEqual([]);
    expect(reachedShare).toBeGreaterThan(MIN_REACHED[id] ?? 0.8);
    expect(cleanShare).toBeGreaterThanOrEqual(0.57);
    // Under the break it is clean nearly always: that is what the strategy is for.
    expect(cleanShare).toBeLessThanOrEqual(0.99);
    expect(oscillation).toBeLessThan(0.12);
  });
});
