import { describe, expect, it } from 'vitest';
import { READY_EXERCISES } from '../rhythm/ready-exercises';
import type { Repetition, TakeSummary } from '../schema/take';
import type { Outcome } from '../schema/verdict';
import { closeTake } from './close-take';
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
    expect(startTempo(120, 100).reason).toContain('100');
  });
});

const repetition = (tempoBpm: number, outcome: Outcome) => ({ tempoBpm, verdict: { outcome } }) as Repetition;

describe('closing a take', () => {
  it('logs the best clean tempo and where to start tomorrow', () => {
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

describe('today', () => {
  it('puts what is under way first, the longest left before the rest, and what is done last', () => {
    const [done, recent, waiting] = READY_EXERCISES;
    const take = (exerciseId: string | undefined, startedAt: string, bestCleanBpm: number) =>
      ({ exerciseId, startedAt, goalBpm: 100, closing: { bestCleanBpm } }) as TakeSummary;
    const takes = [take(recent?.id, '2026-03-03', 80), take(done?.id, '2026-03-02', 100), take(waiting?.id, '2026-03-01', 70)];
    const order = planToday(READY_EXERCISES, takes).map(({ exercise }) => exercise.id);
    expect(order).toEqual([waiting?.id, recent?.id, READY_EXERCISES[3]?.id, READY_EXERCISES[4]?.id, done?.id]);
  });
});
