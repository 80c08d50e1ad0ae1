import { describe, expect, it } from 'vitest';
import { firstDrill } from '../plan/practice-config';
import type { Passage } from '../schema/passage';
import type { Repetition, Take } from '../schema/take';
import { TOLERANCE_PRESETS } from '../schema/tolerance';
import { chance } from '../stats/random';
import { constantTempo } from '../time/tempo-map';
import { describeReason } from '../words/describe-reason';
import { sectionShares } from './section-shares';

/** Six bars of four quarters: A A′s in bars 1 and 2 are the same, bars 3 and 4, and 5 and 6 are others. */
const STEPS = ['C', 'D', 'E', 'F', 'G', 'A', 'B'] as const;
const LINES = [
  [0, 1, 2, 3],
  [0, 1, 2, 3],
  [4, 2, 5, 1],
  [6, 3, 0, 5],
  [1, 6, 2, 4],
  [5, 0, 6, 2],
];
const base = { meter: { count: 4, unit: 4 } };
const passage = {
  id: 'made',
  revision: 1,
  title: 'Made',
  about: '',
  goalBpm: 100,
  beatUnit: '1/4',
  pickup: '0',
  bars: 6,
  firstBarNumber: 1,
  meters: [{ at: '0', ...base.meter }],
  keys: [{ at: '0', fifths: 0 }],
  clefs: [{ at: '0', staff: 1, sign: 'treble' }],
  staves: 1,
  notes: LINES.flatMap((line, bar) =>
    line.map((step, k) => ({
      id: `n${bar}-${k}`,
      at: String(4 * bar + k),
      length: '1',
      staff: 1,
      voice: 1,
      pitch: { step: STEPS[step], alter: 0, octave: 4 },
    })),
  ),
  variants: [],
  sections: [
    { id: 'a', name: 'A', fromBar: 1, toBar: 1 },
    { id: 'again', name: 'A again', fromBar: 2, toBar: 2 },
    { id: 'b', name: 'B', fromBar: 3, toBar: 4 },
    { id: 'c', name: 'C', fromBar: 5, toBar: 6 },
  ],
} as unknown as Passage;
const drill = firstDrill(passage);

/** Takes of the whole; `spreadMs` by bar (from 1) says how far notes scatter there. */
const played = (
  repetitions: number,
  spreadMs: (bar: number) => number,
  seed = 1,
): Pick<Take, 'drills' | 'repetitions' | 'tolerance'>[] => {
  const { normal } = chance(seed);
  return [
    {
      drills: [drill],
      tolerance: TOLERANCE_PRESETS.secure,
      repetitions: Array.from({ length: repetitions }, (_, index) => ({
        index,
        drill: 0,
        tempo: constantTempo(100),
        verdict: { outcome: 'close' },
        notes: drill.grid.events.map((__, k) => ({
          index: k,
          expectedS: 0.6 * k,
          deviationMs: spreadMs(Math.floor(k / 4) + 1) * normal(),
          onsetS: 0,
          levelDb: -20,
        })),
      })) as unknown as Repetition[],
    },
  ];
};
const shareOf = (result: ReturnType<typeof sectionShares>, id: string) =>
  result?.shares.find(({ section }) => section.id === id)?.sharePct ?? -1;

describe('time for the sections of a passage', () => {
  it('goes to the one that is harder, and is said with its numbers', () => {
    const result = sectionShares(
      passage,
      played(8, (bar) => (bar === 5 || bar === 6 ? 90 : 25)),
    );
    expect(result?.why.code).toBe('sections-hard');
    expect(describeReason(result?.why ?? { code: '', values: {} }, { noteNaming: 'british' })).toMatch(
      /^C is the hardest so far: \d+ % of its notes were off, \d+ % elsewhere\./,
    );
    expect(shareOf(result, 'c')).toBeGreaterThan(60);
    expect(shareOf(result, 'c')).toBeGreaterThan(3 * shareOf(result, 'b'));
  });

  it('is not spent on what repeats exactly', () => {
    for (const result of [
      sectionShares(passage, []),
      sectionShares(
        passage,
        played(8, (bar) => (bar > 4 ? 90 : 25)),
      ),
    ])
      expect(shareOf(result, 'again')).toBe(0);
  });

  it('goes by length where no section is harder: hardly ever is one named', () => {
    let named = 0;
    for (let seed = 1; seed <= 200; seed += 1)
      if (
        sectionShares(
          passage,
          played(8, () => 40, seed),
        )?.why.code === 'sections-hard'
      )
        named += 1;
    expect(named).toBeLessThanOrEqual(10);
    const even = sectionShares(
      passage,
      played(8, () => 20),
    );
    expect(even?.why.code).toBe('sections-even');
    expect([shareOf(even, 'a'), shareOf(even, 'b'), shareOf(even, 'c')]).toEqual([20, 40, 40]);
  });

  it('waits for three repetitions, and says nothing of fewer than two sections', () => {
    expect(
      sectionShares(
        passage,
        played(2, (bar) => (bar > 4 ? 90 : 5)),
      )?.why,
    ).toMatchObject({
      code: 'sections-few',
      values: { needed: 3 },
    });
    expect(sectionShares({ ...passage, sections: passage.sections.slice(0, 1) }, [])).toBeNull();
  });
});
