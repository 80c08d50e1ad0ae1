import { describe, expect, it } from 'vitest';
import { constantTempo } from '../time/tempo-map';
import { edgeAmong, SLOW_SHARE, slowUpToBpm } from './pace';

const played = (bpm: number, outcomes: string) =>
  [...outcomes].map((outcome) => ({
    tempo: constantTempo(bpm),
    verdict: {
      outcome: outcome === '+' ? ('clean' as const) : outcome === '?' ? ('not-judged' as const) : ('not-yet' as const),
    },
  }));

describe('the edge among repetitions', () => {
  it('lies between the fastest that was mostly clean and the slowest that was mostly not', () => {
    expect(edgeAmong([...played(60, '+++'), ...played(80, '+-+'), ...played(90, '-+-'), ...played(100, '--')])).toBe(85);
  });

  it('is not one slip at a slow tempo', () => {
    expect(edgeAmong([...played(60, '-+++'), ...played(80, '+++'), ...played(100, '+')])).toBeNull();
  });

  it('is not reached where all was clean, or nothing was judged', () => {
    expect(edgeAmong(played(60, '++++'))).toBeNull();
    expect(edgeAmong(played(60, '??'))).toBeNull();
    expect(edgeAmong([])).toBeNull();
  });

  it('lies below everything where nothing was clean', () => {
    expect(edgeAmong([...played(60, '--'), ...played(50, '-')])).toBeLessThan(50);
  });
});

describe('what is slow', () => {
  it('is at most 85 % of the edge, however far the goal is', () => {
    expect(slowUpToBpm(200, 100)).toBe(100 * SLOW_SHARE);
    expect(slowUpToBpm(60, 100)).toBe(85);
  });

  it('is what lies more than a tenth under the goal where no edge is known', () => {
    expect(slowUpToBpm(100, null)).toBe(89);
  });
});
