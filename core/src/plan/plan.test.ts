import { describe, expect, it } from 'vitest';
import { READY_PASSAGES, readyPassage } from '../rhythm/ready-passages';
import { type Course, CourseSchema, courseId } from '../schema/course';
import type { Passage } from '../schema/passage';
import { DEFAULT_SETTINGS } from '../schema/settings';
import type { Take } from '../schema/take';
import type { Outcome } from '../schema/verdict';
import { why } from '../schema/why';
import { constantTempo } from '../time/tempo-map';
import { say } from '../words/say';
import { closeTake } from './close-take';
import { afterTake, courseOf, drillOf, firstDrill, newCourse } from './course-of';
import { planToday } from './plan-today';
import { startTempo } from './start-tempo';

describe('the start tempo', () => {
  it('is half the goal on a first day, at a mark', () => {
    expect(startTempo(120, null).bpm).toBe(60);
    expect(startTempo(132, null).bpm).toBe(66);
  });

  it('keeps to a slow floor, but never above the goal', () => {
    expect(startTempo(60, null).bpm).toBe(40);
    expect(startTempo(30, null).bpm).toBe(30);
  });

  it('is two notches under the last closing tempo, and not above the goal', () => {
    expect(startTempo(120, 100).bpm).toBe(92);
    expect(startTempo(80, 120).bpm).toBe(80);
    expect(startTempo(120, 36).bpm).toBe(36);
    expect(say(startTempo(120, 100).why, { noteNaming: 'british' })).toContain('100');
  });
});

const repetition = (bpm: number, outcome: Outcome) => ({
  tempo: constantTempo(bpm),
  verdict: { outcome, reason: 'none' as const, why: why('none') },
});

describe('closing a take', () => {
  it('logs the best clean tempo and where to start next time', () => {
    const closing = closeTake(
      [repetition(80, 'clean'), repetition(85, 'clean'), repetition(90, 'not-yet'), repetition(87, 'close')],
      120,
    );
    expect(closing).toMatchObject({ bestCleanBpm: 85, closingBpm: 85, nextStartBpm: 80 });
  });

  it('closes at the last tempo where nothing was clean', () => {
    expect(closeTake([repetition(80, 'broken'), repetition(77, 'not-yet')], 120)).toMatchObject({
      bestCleanBpm: null,
      closingBpm: 77,
    });
    expect(closeTake([], 120)).toBeNull();
  });
});

const five = readyPassage('five-steps') as Passage;
const closing = {
  bestCleanBpm: 80,
  closingBpm: 80,
  nextStartBpm: 72,
  nextStartWhy: why('start-under-closing', { closing: 80 }),
};
const TAKE_ID = '6ec0bd7f-11c0-43da-975e-2a8ad9ebae0b';
const takeAt = (startedAt: string, part: Partial<Take> = {}) =>
  ({
    id: TAKE_ID,
    startedAt,
    input: 'microphone',
    goalBpm: 130,
    closing,
    school: { id: 'half-speed-climb', options: { stepBpm: 10 }, state: { failedInARow: 0, nudging: true, edgeBpm: 85 } },
    ...part,
  }) as Take;

describe('a course', () => {
  it('of a new passage has its goal and the player’s usual school with its options', () => {
    const settings = { ...DEFAULT_SETTINGS, schoolOptions: { 'half-speed-climb': { stepBpm: 10 } } };
    const course = newCourse(five, settings);
    expect(CourseSchema.safeParse(course).error).toBeUndefined();
    expect(course).toMatchObject({ goalBpm: 120, schoolId: 'half-speed-climb', last: null });
    expect(course.schools['half-speed-climb']?.options).toEqual({ stepBpm: 10 });
    expect(courseId(course)).toBe('five-steps.first.whole');
    expect(courseOf([{ ...course, goalBpm: 99 }], five, settings).goalBpm).toBe(99);
  });

  it('keeps of a take its closing, its goal and what its school remembers; an older take and a file change nothing', () => {
    const course = afterTake(newCourse(five, DEFAULT_SETTINGS), takeAt('2026-03-02T10:00:00.000Z'));
    expect(course).toMatchObject({ goalBpm: 130, last: { takeId: TAKE_ID, closing } });
    expect(course.schools['half-speed-climb']?.state).toMatchObject({ edgeBpm: 85 });
    expect(afterTake(course, takeAt('2026-03-01T10:00:00.000Z', { goalBpm: 60 }))).toBe(course);
    expect(afterTake(course, takeAt('2026-03-03T10:00:00.000Z', { input: 'file' }))).toBe(course);
  });

  it('leads to a drill: its section, its marks, its method, its click', () => {
    const passage: Passage = { ...five, sections: [{ id: 'turn', name: 'The turn', fromBar: 1, toBar: 1 }] };
    const course: Course = {
      ...newCourse(passage, DEFAULT_SETTINGS),
      sectionId: 'turn',
      methodId: 'repeat-each',
      click: { kind: 'bar', divisions: 2, countInBars: 2 },
    };
    const drill = drillOf(passage, course);
    expect(drill.grid.bars).toBe(1);
    expect(drill.grid.events).toHaveLength(15 * 2 + 1);
    expect(drill.grid.events[2]?.notes[0]).toMatchObject({ from: 'n2', marks: { finger: '2' } });
    expect(drill.click).toEqual(course.click);
    expect(firstDrill(five).grid.events).toHaveLength(17);
  });
});

describe('today', () => {
  it('puts what is under way first, the longest left before the rest, and what is done last', () => {
    const [done, recent, waiting] = READY_PASSAGES as readonly Passage[];
    const played = (passage: Passage | undefined, startedAt: string, bestCleanBpm: number): Course => ({
      ...newCourse(passage as Passage, DEFAULT_SETTINGS),
      goalBpm: 100,
      last: { takeId: TAKE_ID, startedAt, closing: { ...closing, bestCleanBpm } },
    });
    const courses = [played(recent, '2026-03-03', 80), played(done, '2026-03-02', 100), played(waiting, '2026-03-01', 70)];
    const plan = planToday(READY_PASSAGES, courses);
    const order = plan.map(({ passage }) => passage.id);
    expect(order).toEqual([waiting?.id, recent?.id, READY_PASSAGES[3]?.id, READY_PASSAGES[4]?.id, done?.id]);
    expect(plan.map((line) => line.why.code)).toEqual([
      'today-under-way',
      'today-under-way',
      'today-new',
      'today-new',
      'today-goal-clean',
    ]);
  });
});
