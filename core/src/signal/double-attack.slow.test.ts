import { describe, expect, it } from 'vitest';
import { filterDoubleAttacks } from '../measure/attack-faults';
import { type Instrument, PLUCKED_STRING, STRUCK_BAR } from '../player/instruments';
import { chance } from '../stats/random';
import { detectOnsets } from './detect-onsets';
import { mixInto } from './mix';

const RATE = 48_000;

/** Sixteen notes of an instrument, those of `gapsS` struck again after their gap. */
const playing = (instrument: Instrument, gapsS: ReadonlyMap<number, number>, seed: number): Float32Array => {
  const random = chance(seed);
  const sound = Float32Array.from({ length: 5 * RATE }, () => 0.0004 * random.normal());
  for (let k = 0; k < 16; k += 1) {
    const hz = 220 * 2 ** (((k * 7 + seed) % 13) / 12);
    const strike = (timeS: number, gain: number) =>
      mixInto(sound, 0, {
        frame: Math.round(timeS * RATE),
        samples: instrument.note({ hz, lengthS: 0.2, sampleRateHz: RATE, chance: random }),
        gain,
      });
    const timeS = 0.4 + 0.25 * k + 0.004 * random.normal();
    strike(timeS, 0.3);
    const gapS = gapsS.get(k);
    if (gapS !== undefined) strike(timeS + gapS, 0.28);
  }
  return sound;
};

const doubledIn = (sound: Float32Array) => {
  const onsets = filterDoubleAttacks(detectOnsets(sound, RATE));
  return {
    count: onsets.length,
    doubled: onsets.flatMap(({ doubleAttackMs }, k) => (doubleAttackMs === undefined ? [] : [{ k, doubleAttackMs }])),
  };
};

describe.each([STRUCK_BAR, PLUCKED_STRING])('attacks of a $name', (instrument) => {
  it('are single where they are: at most 2 in 100 are taken for doubled', () => {
    let taken = 0;
    for (let seed = 1; seed <= 12; seed += 1) taken += doubledIn(playing(instrument, new Map(), seed)).doubled.length;
    expect(taken).toBeLessThanOrEqual(0.02 * 12 * 16);
  });

  it('are found where they are struck twice, each as one note with its gap', () => {
    let [planted, found] = [0, 0];
    for (let seed = 1; seed <= 12; seed += 1) {
      const { uniform } = chance(seed);
      const gapsS = new Map([5, 9, 13].map((k) => [k, 0.013 + 0.016 * uniform()]));
      const { count, doubled } = doubledIn(playing(instrument, gapsS, seed));
      expect(count).toBe(16);
      for (const [k, gapS] of gapsS) {
        planted += 1;
        const own = doubled.find((one) => one.k === k);
        if (own && Math.abs(own.doubleAttackMs - 1000 * gapS) < 5) found += 1;
      }
    }
    expect(found / planted).toBeGreaterThanOrEqual(0.8);
  });
});
