import { describe, expect, it } from 'vitest';
import { MIND_TASKS, mindTaskOf } from './mind-tasks';

const shown = (id: string, steps: number, seed = 3) =>
  Array.from({ length: steps }, (_, step) => mindTaskOf(id).shown(seed, step));

describe('tasks for the mind', () => {
  it('have the answer that follows from what was shown', () => {
    const colours = shown('colours', 40);
    expect(mindTaskOf('colours').answer(3, 40)).toBe(`${colours.filter((one) => one === 'blue').length} times blue`);
    const numbers = shown('compare', 40).map(Number);
    const larger = numbers.filter((one, k) => k > 0 && one > (numbers[k - 1] ?? 0)).length;
    expect(mindTaskOf('compare').answer(3, 40)).toBe(`${larger} times larger`);
    expect(mindTaskOf('digits').answer(3, 7)).toBe(shown('digits', 7).slice(5).join(' '));
    expect(mindTaskOf('digits').answer(3, 5)).toBe(shown('digits', 5).join(' '));
    expect(mindTaskOf('sevens').answer(3, 0)).toBe('300');
    expect(mindTaskOf('sevens').answer(3, 2)).toBe('286');
    expect(mindTaskOf('sevens').answer(3, 42)).toBe('300');
  });

  it('show something else each time, and never the answer', () => {
    for (const { id, shown: show } of MIND_TASKS) {
      const seen = Array.from({ length: 60 }, (_, step) => show(1, step));
      expect(new Set(seen).size).toBeGreaterThan(1);
      if (id !== 'sevens') expect(seen).not.toEqual(Array.from({ length: 60 }, (_, step) => show(2, step)));
    }
    expect(shown('sevens', 9).join('')).not.toMatch(/\d/);
  });

  it('are the first one where an older drill names none', () => {
    expect(mindTaskOf(undefined).id).toBe('sevens');
  });
});
