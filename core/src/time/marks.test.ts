import { describe, expect, it } from 'vitest';
import { notchesFrom, TRADITIONAL_MARKS } from './marks';

describe('the traditional marks', () => {
  // The series as printed on metronomes (common practice, no source).
  it('are the printed series', () => {
    expect(TRADITIONAL_MARKS).toEqual([
      40, 42, 44, 46, 48, 50, 52, 54, 56, 58, 60, 63, 66, 69, 72, 76, 80, 84, 88, 92, 96, 100, 104, 108, 112, 116, 120, 126,
      132, 138, 144, 152, 160, 168, 176, 184, 192, 200, 208,
    ]);
  });

  it('are counted in notches, from a tempo between two marks as well', () => {
    expect(notchesFrom(60, 1)).toBe(63);
    expect(notchesFrom(120, -2)).toBe(112);
    expect(notchesFrom(61, 1)).toBe(63);
    expect(notchesFrom(61, -1)).toBe(60);
    expect(notchesFrom(100, 0)).toBe(100);
  });

  it('go on below 40 and above 208 in steps as small as between them', () => {
    expect([1, 2, 3].map((count) => notchesFrom(20, count))).toEqual([21, 22, 23]);
    expect(notchesFrom(39, 1)).toBe(40);
    expect(notchesFrom(42, -3)).toBe(36);
    expect([1, 2].map((count) => notchesFrom(208, count))).toEqual([216, 225]);
    expect(notchesFrom(212, -1)).toBe(208);
    for (let bpm = 12; bpm < 300; bpm += 1)
      for (const count of [1, -1]) expect(Math.abs(notchesFrom(bpm, count) / bpm - 1)).toBeLessThan(0.085);
  });
});
