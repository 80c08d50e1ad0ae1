import { describe, expect, it } from 'vitest';
import { barNamesOf, barNumbersOf, barRange } from './bar-numbers';

describe('numbers of bars', () => {
  it('count on from the first where the page says nothing else', () => {
    expect(barNumbersOf({ bars: 3, firstBarNumber: 9 })).toEqual([9, 10, 11]);
  });

  it('are those of the page where bars repeat, and a bar that comes again says which time it is', () => {
    const passage = { bars: 5, firstBarNumber: 1, pageBars: [1, 2, 1, 2, 3] };
    expect(barNumbersOf(passage)).toEqual([1, 2, 1, 2, 3]);
    expect(barNamesOf(passage)).toEqual([1, 2, '1 (2)', '2 (2)', 3]);
  });

  it('name a stretch, and one bar by itself', () => {
    expect(barRange([9, 10, 11], { fromBar: 1, toBar: 3 })).toBe('9–11');
    expect(barRange([9, 10, 11], { fromBar: 2, toBar: 2 })).toBe('10');
  });
});
