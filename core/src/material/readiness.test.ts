import { describe, expect, it } from 'vitest';
import { changePracticeConfig, newPracticeConfig } from '../plan/practice-config';
import { METHODS } from '../rhythm/methods/methods';
import { PracticeConfigSchema } from '../schema/practice-config';
import { DEFAULT_SETTINGS } from '../schema/settings';
import { READINESS, readinessLeft } from './readiness';

const config = newPracticeConfig({ id: 'five-steps', goalBpm: 120, variants: [], sections: [] }, DEFAULT_SETTINGS);

describe('what should be so before speed', () => {
  it('is left until it is answered, with yes, not yet or skip, and again once that is taken back', () => {
    const answers = { notes: 'yes', rhythm: 'not-yet', marks: 'skipped' } as const;
    const answered = changePracticeConfig(config, { readiness: answers });
    expect(PracticeConfigSchema.parse(answered).readiness).toEqual(answers);
    expect(readinessLeft(answered.readiness)).toBe(READINESS.length - 3);
    expect(readinessLeft(changePracticeConfig(answered, { readiness: { rhythm: 'no' } }).readiness)).toBe(READINESS.length - 2);
  });

  it('leads to a method that exists', () => {
    for (const { id, help } of READINESS) {
      if (typeof help === 'string') continue;
      const changed = PracticeConfigSchema.parse(changePracticeConfig(config, help.change));
      expect(
        METHODS.map((method) => method.id),
        id,
      ).toContain(changed.methodId);
      expect(changed.methodId, id).not.toBe('straight');
    }
  });
});
