import { describe, expect, it } from 'vitest';
import { BUILT_IN_PASSAGES } from '../rhythm/built-in-passages';
import type { PracticeDay } from '../schema/practice';
import { makeReason } from '../schema/reason';
import { DEFAULT_SETTINGS } from '../schema/settings';
import type { Repetition, Take } from '../schema/take';
import { loggedTake } from '../session/logged-take';
import { dayAt, dayIndex, weekdayOf } from '../time/day';
import { constantTempo } from '../time/tempo-map';
import { describeReason } from '../words/describe-reason';
import { changedSince } from './changed-since';
import { dailySummaryOf } from './daily-summary';
import { afterTake, firstDrill, newPracticeConfig } from './practice-config';
import { totals, weekOf } from './weeks';

const [passage] = BUILT_IN_PASSAGES;
if (!passage) throw new Error('no passage');

describe('days', () => {
  it('are counted as a calendar does', () => {
    // 1 January 1970 was a Thursday; 2 March 2026 is a Monday (any calendar).
    expect(weekdayOf('1970-01-01')).toBe(3);
    expect(weekdayOf('2026-03-02')).toBe(0);
    expect(weekOf('2026-03-08')).toBe('2026-03-02');
    expect(dayAt(dayIndex('2028-02-28') + 1)).toBe('2028-02-29');
    expect(dayIndex('2026-03-30') - dayIndex('2026-03-28')).toBe(2);
  });
});

describe('totals', () => {
  const day = (on: string, playedS: number, fastS: number): PracticeDay => ({
    passageId: 'a',
    variantId: 'first',
    sectionId: 'whole',
    day: on,
    takes: 1,
    repetitions: 5,
    clean: 2,
    playedS,
    fastS,
    withoutClickS: 5,
    openBpm: null,
    openClean: null,
    bestCleanBpm: null,
  });
  it('sum weeks from Monday, with those in which nothing was played', () => {
    const weeks = totals(
      [day('2026-03-02', 100, 20), day('2026-03-08', 50, 50), day('2026-03-17', 10, 0), day('2026-03-08', 5, 0)],
      'week',
    );
    expect(weeks).toEqual([
      { from: '2026-03-02', slowS: 85, fastS: 70, withoutClickS: 15, takes: 3, repetitions: 15, clean: 6, days: 2 },
      { from: '2026-03-09', slowS: 0, fastS: 0, withoutClickS: 0, takes: 0, repetitions: 0, clean: 0, days: 0 },
      { from: '2026-03-16', slowS: 10, fastS: 0, withoutClickS: 5, takes: 1, repetitions: 5, clean: 2, days: 1 },
    ]);
    expect(totals([day('2026-03-02', 1, 0), day('2026-03-04', 1, 0)], 'day').map(({ from }) => from)).toEqual([
      '2026-03-02',
      '2026-03-03',
      '2026-03-04',
    ]);
    expect(totals([], 'week')).toEqual([]);
  });
});

describe('what changed', () => {
  const days = (from: number, bpms: readonly number[]) =>
    bpms.map((bestCleanBpm, k) => ({ day: dayAt(20_500 + from + k), bestCleanBpm }));
  const said = (early: readonly number[], late: readonly number[]) => {
    const reason = changedSince(
      [...days(0, early), ...days(60, late)],
      dayAt(20_500 + early.length - 1),
      dayAt(20_560 + late.length - 1),
    );
    return { ...reason, words: describeReason(reason, { noteNaming: 'british' }) };
  };
  it('is said where it is clear of chance', () => {
    const rose = said([80, 82, 81, 80, 83, 81], [95, 97, 96, 94, 98, 96]);
    expect(rose.code).toBe('changed-up');
    // The interval agrees with a Welch interval of the plain tempos (worked by hand: 14.8 ± 1.7).
    expect(Number(rose.values.bpm)).toBeCloseTo(14.8, 0);
    expect(Number(rose.values.low)).toBeCloseTo(13.2, 0);
    expect(rose.words).toMatch(/rose by about 14\.\d/);
    expect(said([95, 97, 96, 94], [80, 82, 81, 83]).code).toBe('changed-down');
  });
  it('is not said where it may be chance, or too little is known', () => {
    expect(said([80, 90, 70, 85, 95], [84, 93, 78, 88, 72]).code).toBe('changed-none');
    expect(said([80, 80, 80], [80, 80, 80]).code).toBe('changed-none');
    expect(said([80, 82], [90, 92, 91]).code).toBe('changed-too-few');
  });
});

describe('what is counted of a take', () => {
  const repetition = (index: number, downbeatS: number, bpm: number, outcome: 'clean' | 'not-yet' | 'not-judged'): Repetition =>
    ({
      index,
      drill: 0,
      tempo: constantTempo(bpm),
      downbeatS,
      notes: [0, 1, 2].map((k) => ({ index: k, expectedS: downbeatS + k, onsetS: null, deviationMs: null, levelDb: null })),
      verdict: { outcome, reason: 'none', why: makeReason('none') },
    }) as unknown as Repetition;
  const take = (part: Partial<Take> = {}): Pick<Take, 'drills' | 'repetitions' | 'goalBpm' | 'input' | 'purpose'> => ({
    drills: [firstDrill(passage)],
    goalBpm: 100,
    input: 'microphone',
    purpose: 'work',
    repetitions: [repetition(0, 2, 60, 'not-judged'), repetition(1, 12, 80, 'not-yet'), repetition(2, 20, 95, 'clean')],
    ...part,
  });
  it('is time from downbeat to downbeat, slow and fast, and how it opened', () => {
    expect(dailySummaryOf(take())).toMatchObject({ playedS: 10 + 8 + 3, fastS: 3, openBpm: 80, openClean: false, weak: null });
  });
  it('does not count a pause between two repetitions as playing', () => {
    const paused = take({ repetitions: [repetition(0, 2, 60, 'clean'), repetition(1, 4000, 60, 'clean')] });
    expect(dailySummaryOf(paused).playedS).toBe(600 + 3);
  });
  it('says nothing of how fast it goes where it was played slowly on purpose, or came from a file', () => {
    expect(dailySummaryOf(take({ purpose: 'slow' }))).toMatchObject({ openBpm: null, openClean: null, playedS: 21 });
    expect(dailySummaryOf(take({ input: 'file' })).openBpm).toBeNull();
    expect(dailySummaryOf(take({ repetitions: [] }))).toEqual({
      playedS: 0,
      fastS: 0,
      openBpm: null,
      openClean: null,
      weak: null,
    });
  });
});

describe('a line of a log', () => {
  const config = newPracticeConfig(passage, DEFAULT_SETTINGS);
  const ids = { id: '6ec0bd7f-11c0-43da-975e-2a8ad9ebae0b', sessionId: '6ec0bd7f-11c0-43da-975e-2a8ad9ebae0c' };
  const noonOf = (day: string) => ({ ...ids, startedAt: `${day}T12:00:00.000Z` });
  it('is a take whose tempo was clean, and the next begins a little under it', () => {
    const take = loggedTake({ day: '2026-03-02', bpm: 84, note: 'ok' }, passage, config, noonOf('2026-03-02'));
    expect(take).toMatchObject({ input: 'log', repetitions: [], note: 'ok', summary: { bestCleanBpm: 84, nextStartBpm: 76 } });
    const after = afterTake(config, take);
    expect(after.last?.summary.bestCleanBpm).toBe(84);
    // An older line changes nothing of a newer one.
    expect(afterTake(after, loggedTake({ day: '2026-01-02', bpm: 60, note: '' }, passage, config, noonOf('2026-01-02')))).toBe(
      after,
    );
  });
});
