import { describe, expect, it } from 'vitest';
import { builtInPassage } from '../rhythm/built-in-passages';
import type { Passage } from '../schema/passage';
import { DEFAULT_SETTINGS } from '../schema/settings';
import { changePracticeConfig, newPracticeConfig } from './practice-config';
import { changesToUsual } from './usual-config';

const passage = builtInPassage('five-steps') as Passage;
const usual = newPracticeConfig(passage, DEFAULT_SETTINGS);

describe('what was changed from the usual', () => {
  it('is nothing where nothing was, whatever goal, tempos and bars there are', () => {
    expect(changesToUsual(usual, usual)).toEqual({});
    expect(changesToUsual({ ...usual, goalBpm: 33, sectionId: 'a', readiness: { loose: 'yes' } }, usual)).toEqual({});
  });

  it('is told by its part, and put back by it and nothing else', () => {
    const changed = changePracticeConfig(usual, {
      strategyId: 'free',
      restBars: 2,
      alsoMethodId: 'arc',
      click: { kind: 'bar', divisions: 2, countInBars: 1 },
      goalBpm: 90,
    });
    const back = changesToUsual(changed, usual);
    expect(back).toEqual({
      strategy: { strategyId: usual.strategyId, restBars: 0 },
      method: { alsoMethodId: null },
      click: { click: null },
    });
    const restored = Object.values(back).reduce((config, change) => changePracticeConfig(config, change), changed);
    expect(restored).toEqual({ ...usual, goalBpm: 90 });
  });
});
