import { beginLadder, decide } from '../ladder/decide';
import type { Aim, Played } from '../ladder/school';
import { beginSchool, SCHOOLS, standingOf } from '../ladder/schools';
import type { PassageTries } from '../schema/api';
import { type Why, why } from '../schema/why';
import { mean } from '../stats/summary';
import { constantTempo, headlineBpm } from '../time/tempo-map';

/** What a school would have asked for after each repetition that was really played. */
export interface SchoolLine {
  id: string;
  name: string;
  /** The tempo asked for next, one a repetition. */
  askedBpm: number[];
  /** How far that lies from what was really played next, on average, as a share of it. */
  meanShare: number;
}

/** Those whose next repetition depends on one that the history does not have say nothing of it. */
const comparable = SCHOOLS.filter(({ id, ways }) => id !== 'free' && !ways?.includes('sweep'));

const playedOf = ({ bpm, outcome, demand, ease, notes }: PassageTries[number]): Played => ({
  tempo: constantTempo(bpm),
  bpm,
  verdict: { outcome, reason: 'none', why: why('none') },
  demand,
  ease: ease ?? 'working',
  notes,
});

/** Takes each school through what was really played: after each repetition it says what it would have asked for next. */
export const compareSchools = (tries: PassageTries, goalBpm: number): SchoolLine[] => {
  if (tries.length < 2) return [];
  return comparable.map(({ id, name }) => {
    let ladder = beginLadder(beginSchool(id, null));
    let takeId = '';
    const askedBpm = tries.map((one) => {
      if (one.takeId !== takeId) {
        takeId = one.takeId;
        ladder = beginLadder(beginSchool(id, standingOf(ladder.school)));
      }
      const aim: Aim = { goalBpm, startBpm: one.startBpm, day: Math.floor(Date.parse(one.startedAt) / 86_400_000) };
      const next = decide(ladder, playedOf(one), aim);
      ladder = next.ladder;
      return headlineBpm(next.decision.tempo);
    });
    // Between takes nothing was decided.
    const shares = tries.slice(1).flatMap((one, k) => {
      const before = tries[k] as PassageTries[number];
      return one.takeId === before.takeId ? [(askedBpm[k] as number) / one.bpm - 1] : [];
    });
    return { id, name, askedBpm, meanShare: shares.length ? mean(shares) : 0 };
  });
};

/** What differs, in one sentence: who would have asked for the fastest and who for the slowest. Null where nothing can be said. */
export const schoolsSentence = (lines: readonly SchoolLine[]): Why | null => {
  const sorted = [...lines].sort((a, b) => a.meanShare - b.meanShare);
  const [slowest, fastest] = [sorted[0], sorted.at(-1)];
  if (!slowest || !fastest || slowest === fastest) return null;
  return why('schools-differ', {
    fastest: fastest.name,
    fastestPct: Math.round(100 * fastest.meanShare),
    slowest: slowest.name,
    slowestPct: Math.round(100 * slowest.meanShare),
  });
};
