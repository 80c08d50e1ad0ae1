import { describe, expect, it } from 'vitest';
import type { Solution } from '../schema/library';
import { describeReason } from '../words/describe-reason';
import { howItWent, triedBefore } from './how-it-went';

const tried = (atBpm?: number) => ({ writtenAt: '2026-11-20T10:00:00Z', atBpm }) as unknown as Solution;
const day = (on: string, bestCleanBpm: number) => ({ day: on, bestCleanBpm, startBpm: 60 });
const said = (solution: Solution, ...days: ReturnType<typeof day>[]) => {
  const reason = howItWent(solution, days);
  return reason && describeReason(reason, { noteNaming: 'british' });
};

describe('how it went since something was tried', () => {
  it('is told by what was clean on the days after', () => {
    expect(said(tried(92), day('2026-11-19', 100), day('2026-11-21', 90), day('2026-11-22', 94))).toBe(
      'Since then clean at 94; it was tried because 92 would not come.',
    );
    expect(said(tried(92), day('2026-11-21', 90))).toBe('Since then clean at 90, not yet at 92, for which it was tried.');
    expect(said(tried(92), day('2026-11-21', 92))).toContain('Since then clean at 92;');
  });

  it('is told of no entry without a tempo, and not before anything was clean on a later day', () => {
    expect(said(tried(), day('2026-11-21', 90))).toBeNull();
    expect(said(tried(92))).toBeNull();
    expect(said(tried(92), day('2026-11-19', 90), day('2026-11-20', 100))).toBeNull();
  });
});

describe('what was tried before', () => {
  const take = (practiceMode: string, startedAt: string, purpose: 'work' | 'slow' = 'work') => ({
    practiceMode,
    startedAt,
    purpose,
    sectionId: 'whole',
  });
  const sections = [
    { id: 'first', name: 'First', fromBar: 1, toBar: 4 },
    { id: 'second', name: 'Second', fromBar: 5, toBar: 8 },
  ];
  const of = (takes: Parameters<typeof triedBefore>[0], bar = 2) => triedBefore(takes, sections, { fromBar: bar, toBar: bar });

  it('is every method besides straight, with how often and when last', () => {
    const takes = [
      take('burst', '2026-11-02'),
      take('around', '2026-11-05'),
      take('burst', '2026-11-04'),
      take('straight', '2026-11-06'),
    ];
    expect(of(takes)).toEqual([
      { practiceMode: 'around', takes: 1, lastAt: '2026-11-05' },
      { practiceMode: 'burst', takes: 2, lastAt: '2026-11-04' },
    ]);
  });

  it('is nothing of what was played for something else, or only straight', () => {
    expect(of([take('slow', '2026-11-02', 'slow'), take('straight', '2026-11-02')])).toEqual([]);
  });

  it('leaves out what was tried on other bars, and counts what was tried on a section that is there no more', () => {
    const takes = [
      { ...take('burst', '2026-11-02'), sectionId: 'first' },
      { ...take('around', '2026-11-03'), sectionId: 'second' },
      { ...take('blocks', '2026-11-04'), sectionId: 'removed' },
    ];
    expect(of(takes, 4).map(({ practiceMode }) => practiceMode)).toEqual(['blocks', 'burst']);
    expect(of(takes, 5).map(({ practiceMode }) => practiceMode)).toEqual(['blocks', 'around']);
  });
});
