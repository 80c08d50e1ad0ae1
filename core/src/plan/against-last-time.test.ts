import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { Take, TakeListItem } from '../schema/take';
import { TOLERANCE_PRESETS } from '../schema/tolerance';
import { describeReason } from '../words/describe-reason';
import { lastTimeOf, takeReason } from './against-last-time';

const LISTED = {
  id: 'before',
  passageId: 'five-steps',
  variantId: 'first',
  sectionId: 'whole',
  practiceMode: 'straight',
  startedAt: '2026-11-23T10:00:00Z',
  tolerance: TOLERANCE_PRESETS.secure,
  withoutClick: false,
  input: 'microphone',
  summary: {},
} as TakeListItem;
const TAKE = {
  ...LISTED,
  id: 'now',
  startedAt: '2026-11-24T10:00:00Z',
  purpose: 'work',
  drills: [{ method: { id: 'straight' } }],
} as unknown as Take;
const before = (part: Partial<TakeListItem>): TakeListItem => ({ ...LISTED, ...part });
const said = (best: number | null, last?: number | null) => describeReason(takeReason(best, last), { noteNaming: 'british' });

describe('the last time of a take', () => {
  it('is the newest before it of the same notes, judged alike', () => {
    const older = before({ id: 'older', startedAt: '2026-11-20T10:00:00Z' });
    expect(lastTimeOf(TAKE, [older, before({}), before({ id: 'now', startedAt: TAKE.startedAt })])?.id).toBe('before');
  });

  it.each([
    ['after it', { startedAt: '2026-11-25T10:00:00Z' }],
    ['of another section', { sectionId: 'end' }],
    ['of another variant', { variantId: 'second' }],
    ['of another passage', { passageId: 'tidewheel' }],
    ['of a drill', { practiceMode: 'burst' }],
    ['judged by another tolerance', { tolerance: TOLERANCE_PRESETS.polished }],
    ['without a click', { withoutClick: true }],
    ['read from a file', { input: 'file' as const }],
    ['typed from a log', { input: 'log' as const }],
    ['without a summary', { summary: null }],
  ])('is none that was %s', (_what, part) => {
    expect(lastTimeOf(TAKE, [before(part as Partial<TakeListItem>)])).toBeNull();
  });
});

describe('what a take came to', () => {
  it('is said against the last time', () => {
    expect(said(96, 92)).toBe('Clean at 96, 4 faster than last time.');
    expect(said(96, 96.04)).toBe('Clean at 96, as last time.');
    expect(said(92.5, 96)).toBe('Clean at 92.5; last time at 96.');
    expect(said(92, null)).toBe('Clean at 92; last time nothing was.');
    expect(said(92)).toBe('Clean at 92.');
    expect(said(null, 92)).toBe('Nothing was clean this time; last time it was clean at 92.');
    expect(said(null, null)).toBe('Nothing was clean this time.');
    expect(said(null)).toBe('Nothing was clean this time.');
  });

  it('never says a difference that its own numbers contradict', () => {
    const tempo = fc.double({ min: 20, max: 300, noNaN: true });
    fc.assert(
      fc.property(tempo, tempo, (best, last) => {
        const [shown = 0, by = 0] = (said(best, last).match(/[\d.]*\d/g) ?? []).map(Number);
        const lastShown = Math.round(last * 10) / 10;
        if (/faster/.test(said(best, last))) expect(shown - by).toBeCloseTo(lastShown, 6);
        else if (/as last time/.test(said(best, last))) expect(shown).toBe(lastShown);
        else expect(shown).toBeLessThan(lastShown);
      }),
    );
  });
});
