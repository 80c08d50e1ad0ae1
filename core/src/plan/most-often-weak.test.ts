import { describe, expect, it } from 'vitest';
import { mostOftenWeak } from './most-often-weak';

const weak = (passageId: string, note: number, ms: number) => ({
  passageId,
  variantId: 'first',
  sectionId: 'whole',
  day: '2026-11-20',
  spot: { note, of: 17, ms },
});

describe('the weak spot of a time', () => {
  it('is the step that stood out in the most takes, over all passages', () => {
    const all = [weak('a', 3, 12), weak('b', 6, 9), weak('b', 6, 11), weak('a', 4, 30)];
    expect(mostOftenWeak(all)).toMatchObject({ config: { passageId: 'b' }, note: 6, ms: 10, takes: 2 });
  });

  it('is the one farthest off where several stood out as often', () => {
    const all = [weak('a', 3, 5), weak('a', 3, 5), weak('b', 6, -20), weak('b', 6, -22)];
    expect(mostOftenWeak(all)).toMatchObject({ config: { passageId: 'b' }, ms: -21 });
  });

  it('is none where no step stood out twice in the same direction', () => {
    expect(mostOftenWeak([])).toBeNull();
    expect(mostOftenWeak([weak('a', 3, 9), weak('a', 4, 9), weak('b', 3, 9)])).toBeNull();
    expect(mostOftenWeak([weak('a', 3, 9), weak('a', 3, -9)])).toBeNull();
  });
});
