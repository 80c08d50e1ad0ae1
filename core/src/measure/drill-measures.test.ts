import { expect, it } from 'vitest';
import { firstDrill } from '../plan/practice-config';
import { builtInPassage } from '../rhythm/built-in-passages';
import type { Drill } from '../schema/grid';
import type { NoteResult } from '../schema/measures';
import type { Passage } from '../schema/passage';
import { withStrategyDrills } from '../session/strategy-drills';
import { chance } from '../stats/random';
import { drillTempo } from '../time/drill-tempo';
import { planRepetition } from '../time/repetition-plan';
import { constantTempo, openTempo } from '../time/tempo-map';
import { drillMeasures } from './drill-measures';

const passage = builtInPassage('five-steps') as Passage;
const straight = firstDrill(passage);
// As long as sweeps get: at 125 a minute has 32 bars. Slower ones have fewer, and tell less surely which note went first.
const [, sweep] = withStrategyDrills([straight], 'below-the-break', 125) as [Drill, Drill];
const tempo = drillTempo(sweep, constantTempo(100));
const plan = planRepetition({ drill: sweep, tempo, startS: 0 });
const map = openTempo(tempo);
/** Notes of the passage, which the sweep goes through again and again. */
const NOTES = straight.grid.events.length;

/** A player who breaks at a tempo, one note of the passage more than the others. */
const played = (breakBpm: number, weak: number | null, seed: number): NoteResult[] => {
  const { normal } = chance(seed);
  return plan.notes.map(({ index, timeS, beat }) => {
    const tenths = Math.max(0, map.tempoAt(beat) / breakBpm - 1) / 0.1;
    const deviationMs = 4 * 2.2 ** tenths * (tenths > 0 && index % NOTES === weak ? 5 : 1) * normal();
    return { index, expectedS: timeS, onsetS: timeS + deviationMs / 1000, deviationMs, levelDb: -20 };
  });
};
const measured = (results: NoteResult[], drill: Drill = sweep) => drillMeasures(results, drill, plan.notes, 0.6);

it('a sweep goes over the passage many times, and is measured for its break and for the note that went first', () => {
  expect(plan.notes.length).toBeGreaterThanOrEqual(8 * NOTES);
  let right = 0;
  for (let seed = 1; seed <= 12; seed += 1) {
    const weak = 2 + (seed % (NOTES - 3));
    const { breakBpm, wentFirst } = measured(played(100, weak, seed));
    expect(breakBpm?.value).toBeGreaterThan(90);
    expect(breakBpm?.value).toBeLessThan(110);
    if (wentFirst?.[0] === weak) right += 1;
  }
  // Counted in the passage, wherever in the sweep it came.
  expect(right).toBeGreaterThanOrEqual(9);
});

it('names no note where all went alike, and none where nothing broke', () => {
  let named = 0;
  for (let seed = 1; seed <= 40; seed += 1) if (measured(played(100, null, seed)).wentFirst) named += 1;
  expect(named).toBeLessThanOrEqual(4);
  const even = measured(played(1000, null, 3));
  expect(even).toMatchObject({ breakBpm: null });
  expect(even.wentFirst).toBeUndefined();
});

it('a drill that stays at its tempo has neither', () => {
  const { tempo: _, ...still } = sweep;
  expect(measured(played(100, null, 2), still as Drill)).toEqual({});
});
