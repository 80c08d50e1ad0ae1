import { expect, it } from 'vitest';
import { builtInPassage } from '../rhythm/built-in-passages';
import type { Passage } from '../schema/passage';
import type { PracticeConfig } from '../schema/practice-config';
import { makeReason } from '../schema/reason';
import { DEFAULT_SETTINGS } from '../schema/settings';
import { configTitle, listedConfigs } from './listed-configs';
import { practiceConfigOf } from './practice-config';

const passage: Passage = {
  ...(builtInPassage('rolling-threes') as Passage),
  sections: [
    { id: 'a', name: 'A', fromBar: 1, toBar: 1 },
    { id: 'b', name: 'B', fromBar: 2, toBar: 2 },
  ],
};
const [variant] = passage.variants;
const clean = (sectionId: string, bestCleanBpm: number | null, variantId = variant?.id): PracticeConfig => ({
  ...practiceConfigOf([], passage, DEFAULT_SETTINGS, { sectionId, variantId }),
  variantId: variantId ?? 'first',
  last: {
    takeId: '1b4e28ba-2fa1-4d2e-883f-0016d3cca427',
    startedAt: '2026-11-20T18:00:00.000Z',
    summary: { bestCleanBpm, closingBpm: 60, nextStartBpm: 60, nextStartWhy: makeReason('start-goal') },
  },
});

it('lists the whole first, then the sections, the one furthest from its goal before the others', () => {
  const configs = [clean('a', 100), clean('b', 70)];
  expect(listedConfigs(configs, passage, DEFAULT_SETTINGS, variant?.id).map((one) => configTitle(passage, one))).toEqual([
    'The whole',
    'Section B',
    'Section A',
  ]);
  // One that was never clean is furthest of all.
  expect(listedConfigs([clean('a', null), clean('b', 70)], passage, DEFAULT_SETTINGS, variant?.id)[1]?.sectionId).toBe('a');
});

it('has what was practised by other marks at the end, and of other passages nothing', () => {
  const elsewhere = { ...clean('whole', 90), passageId: 'five-steps' };
  const listed = listedConfigs([elsewhere, clean('whole', 90, 'gone')], passage, DEFAULT_SETTINGS, variant?.id);
  expect(listed).toHaveLength(4);
  expect(listed.at(-1)?.variantId).toBe('gone');
});

it('lists the whole of a passage without marks once, also where it was practised', () => {
  const plain = builtInPassage('in-on-the-upbeat') as Passage;
  const practised = practiceConfigOf([], plain, DEFAULT_SETTINGS, {});
  expect(listedConfigs([practised], plain, DEFAULT_SETTINGS, undefined)).toHaveLength(1);
});
