import { describe, expect, it } from 'vitest';
import { firstDrill } from '../plan/practice-config';
import { BUILT_IN_PASSAGES, builtInPassage } from '../rhythm/built-in-passages';
import type { ClickPlan, Drill } from '../schema/grid';
import type { Passage } from '../schema/passage';
import { countInDivisions, planRepetition } from './repetition-plan';
import { constantTempo } from './tempo-map';

const drillFor = (id: string, click: Partial<ClickPlan> = {}): Drill => {
  const drill = firstDrill(builtInPassage(id) as Passage);
  return { ...drill, click: { ...drill.click, ...click } };
};
const plan = (id: string, bpm: number, click: Partial<ClickPlan> = {}) =>
  planRepetition({ drill: drillFor(id, click), tempo: constantTempo(bpm), startS: 10 });

describe('a planned repetition', () => {
  it('counts one bar in before the first downbeat', () => {
    const { downbeatS, notes, clicks } = plan('five-steps', 60);
    expect(downbeatS).toBe(14);
    expect(notes[0]?.timeS).toBe(14);
    expect(clicks[0]).toEqual({ timeS: 10, kind: 'bar' });
  });

  it('counts in the value of the first note', () => {
    const countIn = (id: string) => plan(id, 60).clicks.filter((click) => click.timeS < 14 - 1e-9);
    expect(countIn('five-steps')).toHaveLength(16);
    expect(countIn('rolling-threes')).toHaveLength(12);
    // A dotted first note divides no beat evenly: the beats themselves are counted.
    expect(countIn('long-short-walk')).toHaveLength(4);
  });

  it('leaves the pickup to the player: its divisions stop where it begins', () => {
    const { notes, clicks } = plan('in-on-the-upbeat', 60);
    expect(notes[0]?.timeS).toBe(13.5);
    expect(clicks.filter((click) => click.timeS < 14 - 1e-9).map((click) => click.timeS)).toEqual([
      10, 10.5, 11, 11.5, 12, 12.5, 13,
    ]);
    expect(clicks.some((click) => click.timeS === 14 && click.kind === 'bar')).toBe(true);
  });

  it('never divides faster than one can count', () => {
    const { grid } = drillFor('five-steps');
    expect(countInDivisions(grid, 60)).toBe(4);
    expect(countInDivisions(grid, 160)).toBe(2);
    expect(countInDivisions(grid, 300)).toBe(1);
  });

  it('clicks every beat of the grid, the bars marked, and ends with its last bar', () => {
    const { clicks, endS } = plan('five-steps', 120);
    const played = clicks.filter((click) => click.timeS >= 12 - 1e-9);
    expect(played.map((click) => click.kind)).toEqual(['bar', 'beat', 'beat', 'beat', 'bar', 'beat', 'beat', 'beat']);
    expect(endS).toBe(16);
  });

  it.each([
    ['division', [0, 0.5, 1, 1.5, 2, 2.5, 3, 3.5, 4, 4.5, 5, 5.5, 6, 6.5, 7, 7.5]],
    ['off-beat', [0.5, 1.5, 2.5, 3.5, 4.5, 5.5, 6.5, 7.5]],
    ['bar', [0, 4]],
    ['none', []],
  ] as const)('clicks by its plan: %s', (kind, beats) => {
    const { clicks, downbeatS } = plan('five-steps', 60, { kind });
    const played = clicks.filter((click) => click.timeS >= downbeatS - 1e-9);
    expect(played.map((click) => click.timeS - downbeatS)).toEqual([...beats]);
    // The count-in is there all the same.
    expect(clicks.length - played.length).toBe(16);
  });

  it('counts in as many bars as the plan says', () => {
    expect(plan('five-steps', 60, { countInBars: 2 }).downbeatS).toBe(18);
  });

  it.each(BUILT_IN_PASSAGES.map((passage) => [passage.id, passage] as const))(
    'of %s spaces its notes as notated',
    (_id, passage) => {
      const { notes } = planRepetition({ drill: firstDrill(passage), tempo: constantTempo(90), startS: 0 });
      for (const [k, note] of notes.slice(0, -1).entries()) {
        expect(note.intervalS).toBeCloseTo((notes[k + 1]?.timeS ?? 0) - note.timeS, 9);
      }
    },
  );

  it('follows a change of meter: bars are clicked where they begin', () => {
    const passage: Passage = {
      ...(builtInPassage('five-steps') as Passage),
      bars: 3,
      meters: [
        { at: '0', count: 3, unit: 4 },
        { at: '3', count: 5, unit: 8 },
        { at: '11/2', count: 2, unit: 4 },
      ],
    };
    const { clicks, downbeatS, endS } = planRepetition({ drill: firstDrill(passage), tempo: constantTempo(60), startS: 0 });
    const played = clicks.filter((click) => click.timeS >= downbeatS - 1e-9);
    expect(played.map(({ timeS, kind }) => [timeS - downbeatS, kind])).toEqual([
      [0, 'bar'],
      [1, 'beat'],
      [2, 'beat'],
      [3, 'bar'],
      [4, 'beat'],
      [5, 'beat'],
      [5.5, 'bar'],
      [6.5, 'beat'],
    ]);
    expect(endS - downbeatS).toBe(7.5);
  });
});
