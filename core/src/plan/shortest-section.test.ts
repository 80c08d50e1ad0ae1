import { describe, expect, it } from 'vitest';
import { shortestSectionWith } from './shortest-section';
import { isKeptForWarmUp } from './warm-up-and-music';

const section = (id: string, fromBar: number, toBar: number) => ({ id, name: id, fromBar, toBar });
const passage = {
  bars: 12,
  sections: [section('all', 1, 12), section('first', 1, 8), section('turn', 5, 6), section('end', 9, 12)],
};

describe('the section that a bar is practised in', () => {
  it('is the shortest one around it', () => {
    expect(shortestSectionWith(5, passage)?.id).toBe('turn');
    expect(shortestSectionWith(6, passage)?.id).toBe('turn');
    expect(shortestSectionWith(7, passage)?.id).toBe('first');
    expect(shortestSectionWith(12, passage)?.id).toBe('end');
  });

  it('is none where only the whole is around it, or nothing', () => {
    expect(shortestSectionWith(3, { bars: 12, sections: [section('all', 1, 12)] })).toBeNull();
    expect(shortestSectionWith(3, { bars: 12, sections: [section('end', 9, 12)] })).toBeNull();
    expect(shortestSectionWith(3, { bars: 12, sections: [] })).toBeNull();
  });
});

describe('a passage that is kept for warming up', () => {
  it.each(['warm-up', 'Warm up', 'warmup', 'WARM-UPS'])('has the tag “%s”', (tag) => {
    expect(isKeptForWarmUp(['marimba', tag])).toBe(true);
  });

  it.each(['warm', 'warm-up later', 'upwarm', 'no warm-up'])('has not the tag “%s”', (tag) => {
    expect(isKeptForWarmUp([tag])).toBe(false);
  });
});
