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

  it('end at 40 and 208', () => {
    expect(notchesFrom(42, -5)).toBe(40);
    expect(notchesFrom(208, 1)).toBe(208);
    expect(notchesFrom(20, -1)).toBe(40);
  });
});
