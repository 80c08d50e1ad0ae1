import { describe, expect, it } from 'vitest';
import { chance } from '../stats/random';
import { createDeliveryWatch, type LostSound } from './delivery-watch';

/** Looks ten times a second at an input whose delivery trails the clock by up to a buffer, and drifts; sound goes missing as told. */
const watched = (options: {
  seed: number;
  minutes: number;
  bufferS?: number;
  driftPpm?: number;
  lost?: [atS: number, s: number][];
}) => {
  const { seed, minutes, bufferS = 0.01, driftPpm = 0, lost = [] } = options;
  const random = chance(seed);
  const look = createDeliveryWatch();
  const told: LostSound[] = [];
  for (let k = 0; k < minutes * 600; k += 1) {
    const clockS = 5 + k / 10 + 0.004 * random.uniform();
    const gone = lost.filter(([atS]) => clockS > atS).reduce((sum, [, s]) => sum + s, 0);
    const found = look(clockS, clockS * (1 + driftPpm / 1e6) - bufferS * random.uniform() - gone);
    if (found) told.push(found);
  }
  return told;
};

describe('the watch over what an input delivers', () => {
  it.each([0.003, 0.01, 0.02])('says nothing in an hour of buffers of %s s and clocks that drift by 200 ppm', (bufferS) => {
    for (const driftPpm of [-200, 0, 200]) expect(watched({ seed: 1, minutes: 60, bufferS, driftPpm })).toEqual([]);
  });

  it('names the moment and the length of each piece that went missing', () => {
    for (let seed = 1; seed <= 40; seed += 1) {
      const told = watched({
        seed,
        minutes: 2,
        driftPpm: 50,
        lost: [
          [30, 0.1],
          [70, 0.5],
        ],
      });
      expect(told).toHaveLength(2);
      told.forEach(({ fromS, toS, lostS }, k) => {
        const [atS, s] = [
          [30, 0.1],
          [70, 0.5],
        ][k] as [number, number];
        expect(fromS).toBeLessThanOrEqual(atS);
        expect(toS).toBeGreaterThan(atS);
        expect(toS - fromS).toBeLessThan(0.3);
        expect(Math.abs(lostS - s)).toBeLessThan(0.02);
      });
    }
  });

  it('is not disturbed by sound that comes late and all at once', () => {
    const look = createDeliveryWatch();
    const told: (LostSound | null)[] = [];
    for (let k = 0; k < 600; k += 1) {
      const clockS = k / 10;
      // For a third of a second nothing comes; then what was held back comes with the rest.
      const isHeldBack = clockS > 20 && clockS < 20.3;
      told.push(look(clockS, isHeldBack ? 20 : clockS));
    }
    expect(told.filter(Boolean)).toEqual([]);
  });
});
