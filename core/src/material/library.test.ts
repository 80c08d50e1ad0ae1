import { describe, expect, it } from 'vitest';
import { newPracticeConfig } from '../plan/practice-config';
import { BUILT_IN_PASSAGES } from '../rhythm/built-in-passages';
import type { Solution } from '../schema/library';
import { PassageSummarySchema } from '../schema/library';
import type { Passage } from '../schema/passage';
import { makeReason } from '../schema/reason';
import { DEFAULT_SETTINGS } from '../schema/settings';
import { libraryEntries, searchLibrary, solutionsFor, summaryOf } from './library';

const place = { tags: [] as string[], archivedAt: null, editedAt: null };
const summaries = BUILT_IN_PASSAGES.map((passage, k) => summaryOf(passage, { ...place, tags: k % 2 ? ['évening'] : [] }));
const summary = { bestCleanBpm: 100, closingBpm: 100, nextStartBpm: 92, nextStartWhy: makeReason('start-goal') };
const played = (k: number, day: string, bestCleanBpm: number) => ({
  ...newPracticeConfig(BUILT_IN_PASSAGES[k] as Passage, DEFAULT_SETTINGS),
  last: {
    takeId: '00000000-0000-4000-8000-000000000000',
    startedAt: `${day}T10:00:00.000Z`,
    summary: { ...summary, bestCleanBpm },
  },
});
const practiceConfigs = [played(0, '2026-03-01', 60), played(2, '2026-03-05', 90)];
const asked = { text: '', tag: null, archived: false, order: 'title' as const };
const ids = (part: Partial<Parameters<typeof searchLibrary>[1]>, solutions: Solution[] = []) =>
  searchLibrary(libraryEntries(summaries, practiceConfigs), { ...asked, ...part }, solutions).map(({ passage }) => passage.id);
const note = (part: Partial<Solution>): Solution => ({
  id: '00000000-0000-4000-8000-000000000001',
  passageId: 'five-steps',
  fromBar: 1,
  toBar: 1,
  text: 'Thumb sooner.',
  writtenAt: '2026-03-01T10:00:00.000Z',
  editedAt: '2026-03-01T10:00:00.000Z',
  removed: false,
  ...part,
});

describe('the library', () => {
  it('is made of summaries that are valid', () => {
    for (const summary of summaries) expect(PassageSummarySchema.safeParse(summary).error).toBeUndefined();
  });

  it('is searched by words, without accents and capitals, in title, description, tags and notebook', () => {
    expect(ids({ text: 'FIVE' })).toEqual(['five-steps']);
    expect(ids({ text: 'evening' })).toHaveLength(2);
    expect(ids({ text: 'long walk' })).toEqual(['long-short-walk']);
    expect(ids({ text: 'thumb' })).toEqual([]);
    expect(ids({ text: 'thumb' }, [note({})])).toEqual(['five-steps']);
    expect(ids({ tag: 'évening' })).toHaveLength(2);
  });

  it('is sorted by when it was played, and by how near to the goal', () => {
    expect(ids({ order: 'played' }).slice(0, 2)).toEqual(['long-short-walk', 'five-steps']);
    expect(ids({ order: 'left' }).slice(-2)).toEqual(['five-steps', 'long-short-walk']);
    expect(ids({ order: 'goal' })[0]).toBe('long-short-walk');
  });

  it('shows where a passage got hard, where its strategy remembers it', () => {
    const [first] = practiceConfigs.map((config) => ({
      ...config,
      strategies: { [config.strategyId]: { options: {}, state: { edgeBpm: 84, nudging: true, failedInARow: 0 } } },
    }));
    const entries = libraryEntries(summaries, first ? [first] : []);
    expect(entries.find(({ passage }) => passage.id === 'five-steps')?.edgeBpm).toBe(84);
    expect(entries.find(({ passage }) => passage.id === 'rolling-threes')?.edgeBpm).toBeNull();
  });

  it('keeps what is archived apart', () => {
    const archived = summaries.map((one) =>
      one.id === 'five-steps' ? { ...one, archivedAt: '2026-03-01T10:00:00.000Z' } : one,
    );
    const entries = libraryEntries(archived, practiceConfigs);
    expect(searchLibrary(entries, asked).map(({ passage }) => passage.id)).not.toContain('five-steps');
    expect(searchLibrary(entries, { ...asked, archived: true }).map(({ passage }) => passage.id)).toEqual(['five-steps']);
  });
});

describe('the notebook', () => {
  it('shows what is about the bars in hand, newest first, and nothing that was removed', () => {
    const all = [
      note({}),
      note({ text: 'later', fromBar: 2, toBar: 4, editedAt: '2026-04-01T10:00:00.000Z' }),
      note({ text: 'gone', removed: true }),
      note({ text: 'other', passageId: 'rolling-threes' }),
    ];
    expect(solutionsFor(all, 'five-steps').map(({ text }) => text)).toEqual(['later', 'Thumb sooner.']);
    expect(solutionsFor(all, 'five-steps', { fromBar: 1, toBar: 1 }).map(({ text }) => text)).toEqual(['Thumb sooner.']);
    expect(solutionsFor(all, 'five-steps', { fromBar: 3, toBar: 9 }).map(({ text }) => text)).toEqual(['later']);
  });
});
