import { describe, expect, it } from 'vitest';
import type { ClickPlan } from '../schema/grid';
import { barClicks, bareBarS } from './bar-clicks';
import { CLICK_PLANS } from './click-plan';

const click = (part: Partial<ClickPlan> = {}): ClickPlan => ({ kind: 'beat', divisions: 2, countInBars: 1, ...part });
const at = (part: Partial<ClickPlan>, bar = 0, beatsPerBar = 4) =>
  barClicks({ click: click(part), beatsPerBar, bpm: 120 }, bar, 10).map(({ timeS, kind }) => [timeS, kind]);

describe('a click without music', () => {
  it('is on every beat, the first of the bar apart', () => {
    expect(at({}, 0, 3)).toEqual([
      [10, 'bar'],
      [10.5, 'beat'],
      [11, 'beat'],
    ]);
  });

  it('is between the beats, divided, or on the groups of the bar', () => {
    expect(at({ kind: 'off-beat' }, 0, 2)).toEqual([
      [10.25, 'beat'],
      [10.75, 'beat'],
    ]);
    expect(at({ kind: 'division', divisions: 3 }, 0, 1).map(([timeS]) => Number(timeS).toFixed(4))).toEqual([
      '10.0000',
      '10.1667',
      '10.3333',
    ]);
    expect(at({ kind: 'group', groups: [3, 2] }, 0, 5).map(([timeS]) => timeS)).toEqual([10, 11.5]);
  });

  it('falls silent by bars, and may come on the first of every few', () => {
    const sounds = (part: Partial<ClickPlan>) => [0, 1, 2, 3].map((bar) => at(part, bar).length > 0);
    expect(sounds({ gap: { clickedBars: 1, silentBars: 1 } })).toEqual([true, false, true, false]);
    expect(sounds({ kind: 'bars', everyBars: 4 })).toEqual([true, false, false, false]);
  });

  it('goes on without a seam: every click of a bar lies in it, in whatever way it is clicked', () => {
    for (const { kind } of CLICK_PLANS)
      for (const beatsPerBar of [1, 2, 3, 4, 5, 7, 12]) {
        const bar = { click: click({ kind }), beatsPerBar, bpm: 97 };
        const times = barClicks(bar, 0, 2).map(({ timeS }) => timeS);
        expect([...times].sort((a, b) => a - b)).toEqual(times);
        for (const timeS of times) expect(timeS).toBeLessThan(2 + bareBarS(bar) - 1e-9);
      }
  });
});
