import { describe, expect, it } from 'vitest';
import { chance } from '../stats/random';
import { tappedBpm } from './tapped-tempo';

const tapsAt = (bpm: number, count: number, offMs = (_: number) => 0) =>
  Array.from({ length: count }, (_, k) => 500 + (60_000 / bpm) * k + offMs(k));

describe('a tapped tempo', () => {
  it('is none before two taps, and exact from two on', () => {
    expect(tappedBpm([])).toBeNull();
    expect(tappedBpm([17])).toBeNull();
    for (const bpm of [30, 60, 97, 208]) expect(tappedBpm(tapsAt(bpm, 4))).toBe(bpm);
  });

  it('is within 2 % of what unsteady taps (25 ms) mean, and outlives a slip', () => {
    for (let seed = 1; seed <= 40; seed += 1) {
      const { normal } = chance(131 * seed);
      const told = tappedBpm(tapsAt(90, 9, (k) => 25 * normal() + (k === 5 ? 90 : 0))) as number;
      expect(Math.abs(told - 90)).toBeLessThanOrEqual(4);
    }
  });

  it('begins anew after a pause, and follows the latest taps', () => {
    const slow = tapsAt(60, 4);
    const last = slow.at(-1) as number;
    expect(tappedBpm([...slow, last + 4000])).toBeNull();
    expect(tappedBpm([...slow, last + 4000, last + 4500, last + 5000])).toBe(120);
    const faster = tapsAt(120, 12).map((ms) => ms + last);
    expect(tappedBpm([...slow, ...faster])).toBe(120);
  });
});
