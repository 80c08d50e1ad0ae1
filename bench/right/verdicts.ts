/** How often a repetition is clean, by rhythm, number of notes and player. */
import { judge, judgedOf, measureRepetition, toleranceWindowMs } from '@isochron/core/analysis';
import type { ExpectedNote } from '@isochron/core/material';
import { type Drill, type NoteResult, TOLERANCE_PRESETS, type Tolerance, type Verdict } from '@isochron/core/schema';
import { PLAYERS, type Player, playerOf } from '../players/players';
import { planOf } from './heard';
import { RHYTHMS } from './rhythms';
import { pct, shareOf, type Table } from './table';

const TIMES = 400;
const BPM = 90;

const resultsOf = (notes: readonly ExpectedNote[], deviationsMs: readonly number[]): NoteResult[] =>
  notes.map(({ index, timeS, intervalS }, k) => {
    // Farther than this and it would be taken for another note.
    const most = 490 * intervalS;
    const deviationMs = Math.max(-most, Math.min(most, deviationsMs[k] as number));
    return { index, expectedS: timeS, onsetS: timeS + deviationMs / 1000, deviationMs, levelDb: -12 };
  });

export const verdictFor = (notes: readonly ExpectedNote[], deviationsMs: readonly number[], tolerance: Tolerance): Verdict => {
  const results = resultsOf(notes, deviationsMs);
  return judge(judgedOf(notes, measureRepetition({ notes, results, extra: 0, tolerance }), tolerance, false));
};

/** What is allowed at each note, and the same growing with the root of the interval from the shortest note's on. */
const allowedMs = (notes: readonly ExpectedNote[], tolerance: Tolerance, byRoot: boolean): number[] => {
  const shortestS = Math.min(...notes.map(({ intervalS }) => intervalS));
  return notes.map(({ intervalS }) =>
    byRoot
      ? (toleranceWindowMs(tolerance, 1000 * shortestS) / 2) * Math.sqrt(intervalS / shortestS)
      : toleranceWindowMs(tolerance, 1000 * intervalS) / 2,
  );
};

const cleanShare = (options: {
  drill: Drill;
  player: Player;
  share: number;
  tolerance: Tolerance;
  byRoot?: boolean;
  times?: number;
}): number => {
  const { drill, player, share, tolerance, byRoot = false, times = TIMES } = options;
  const { notes } = planOf(drill, BPM);
  const sdMs = allowedMs(notes, tolerance, byRoot).map((allowed) => share * allowed);
  const timesS = notes.map(({ timeS }) => timeS);
  return shareOf(times, (seed) => {
    const deviationsMs = player.deviationsMs({ timesS, sdMs, seed: seed * 7919 + notes.length });
    return verdictFor(notes, deviationsMs, tolerance).outcome === 'clean';
  });
};

const COUNTS = [8, 12, 16, 24, 48, 120];

export const verdictTables = (times = TIMES): Table[] => {
  const { secure } = TOLERANCE_PRESETS;
  const player = playerOf('independent');
  const byRhythm = (name: string, share: number, byRoot: boolean): Table => ({
    title: name,
    about: `Share of clean repetitions at ${BPM}, ${times} each, tolerance “secure”. Wanted: ${share < 1 ? '97 % and more' : '5 % and less'}.`,
    head: ['rhythm', ...COUNTS.map((count) => `${count} notes`)],
    rows: RHYTHMS.map((rhythm) => [
      rhythm.name,
      ...COUNTS.map((count) =>
        pct(cleanShare({ drill: rhythm.drill(count), player, share, tolerance: secure, byRoot, times })),
      ),
    ]),
  });
  const even = RHYTHMS[0] as (typeof RHYTHMS)[number];
  return [
    byRhythm('Half of what is allowed at each note', 0.5, false),
    byRhythm('Half of what is allowed at the shortest note, growing with the root of the interval', 0.5, true),
    byRhythm('One and a half times what is allowed at each note', 1.5, false),
    {
      title: 'Other tolerances, even sixteenths',
      about: 'Clean at half / one and a half of what is allowed.',
      head: ['tolerance', ...COUNTS.map((count) => `${count} notes`)],
      rows: Object.values(TOLERANCE_PRESETS).map((tolerance) => [
        tolerance.preset,
        ...COUNTS.map((count) => {
          const drill = even.drill(count);
          const at = (share: number) => pct(cleanShare({ drill, player, share, tolerance, times }));
          return `${at(0.5)} / ${at(1.5)}`;
        }),
      ]),
    },
    {
      title: 'Other players, 16 even sixteenths',
      about:
        'Clean at a share of what is allowed. Heavy tails and wandering are clean more often at one and a half: most of their repetitions are steady, and a repetition is judged by what was played in it.',
      head: ['player', '0.5', '0.75', '1', '1.25', '1.5'],
      rows: PLAYERS.map((one) => [
        one.about,
        ...[0.5, 0.75, 1, 1.25, 1.5].map((share) =>
          pct(cleanShare({ drill: even.drill(16), player: one, share, tolerance: secure, times })),
        ),
      ]),
    },
  ];
};
