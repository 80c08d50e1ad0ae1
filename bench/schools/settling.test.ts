import { SCHOOLS } from '@isochron/core';
import { describe, expect, it } from 'vitest';
import { LEARNERS } from './learner';
import { settleMany } from './settling';

const COUNT = 8;
const REPETITIONS = 100;

describe.each(SCHOOLS.filter(({ id }) => id !== 'free').map(({ id }) => id))('the school %s', (id) => {
  it.each(LEARNERS.map((learner) => [learner.name, learner] as const))(
    'settles where a learner who %s is clean 6 to 9 in 10',
    (_, learner) => {
      const { reached, cleanShare, falseGoals, nextStartShare } = settleMany(id, learner, COUNT, REPETITIONS);
      expect(reached).toBe(1);
      // Eight learners: two standard errors of a tenth.
      expect(cleanShare).toBeGreaterThanOrEqual(0.57);
      expect(cleanShare).toBeLessThanOrEqual(0.93);
      expect(falseGoals).toBeLessThanOrEqual(1 / COUNT);
      expect(nextStartShare).toBeLessThanOrEqual(1.02);
      expect(nextStartShare).toBeGreaterThan(0.8);
    },
  );
});
