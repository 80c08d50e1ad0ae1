import { BURST } from '../rhythm/methods/burst';
import { STRATEGY_SWEEP_SHARES, SWEEP } from '../rhythm/methods/sweep';
import { tempoPoints } from '../rhythm/methods/tempo-shape';
import { barStarts } from '../schema/frame';
import type { Drill } from '../schema/grid';
import { strategyOf } from '../strategies/strategies';
import type { RepetitionKind, StrategyRepetitionKind } from '../strategies/strategy';

/** A sweep lasts about a minute, which is as long as one can attend; in so many bars. */
const SWEEP_S = 60;
const [LEAST_BARS, MOST_BARS] = [8, 32];
const SWEEP_SHARE = (STRATEGY_SWEEP_SHARES[0] + STRATEGY_SWEEP_SHARES[1]) / 2;

const sweepBars = ({ grid }: Drill, bpm: number): number => {
  const barBeats = barStarts(grid)[1]?.valueOf() ?? 4;
  return Math.max(LEAST_BARS, Math.min(MOST_BARS, Math.floor((SWEEP_S * SWEEP_SHARE * bpm) / 60 / barBeats)));
};

/** Bursts go round over so many places of the passage at most. */
const MAX_BURSTS = 6;
/** A take has so many drills at most. */
export const MAX_DRILLS = 64;

/** What is played for a strategy that asks for something else than the drill itself, made of that drill. */
const MAKERS: Record<StrategyRepetitionKind, (drill: Drill, bpm: number) => Drill[]> = {
  sweep: (asked, bpm) =>
    SWEEP.drills(asked.grid, { fromPercent: 100 * STRATEGY_SWEEP_SHARES[0], bars: sweepBars(asked, bpm) }).map((drill) => ({
      ...drill,
      tempo: tempoPoints(drill.grid, [
        [0, STRATEGY_SWEEP_SHARES[0]],
        [1, STRATEGY_SWEEP_SHARES[1]],
      ]),
    })),
  burst: ({ grid }) => BURST.drills(grid, BURST.parameters.parse({})).slice(0, MAX_BURSTS),
};

/** The drills of a take that begins at a tempo: those that were chosen, then what its strategy asks for besides. */
export const withStrategyDrills = (chosen: readonly Drill[], strategyId: string, bpm: number): Drill[] => {
  const [first] = chosen;
  if (!first) return [];
  const asked = (strategyOf(strategyId).repetitionKinds ?? []).flatMap((repetitionKind) =>
    MAKERS[repetitionKind](first, bpm).map((drill) => ({ ...drill, repetitionKind })),
  );
  return [...chosen.slice(0, MAX_DRILLS - asked.length), ...asked];
};

/** How many of a take's drills were chosen: the others come after them. */
export const chosenCount = (drills: readonly Pick<Drill, 'repetitionKind'>[]): number =>
  drills.filter(({ repetitionKind }) => !repetitionKind).length;

/** Which drill is played for a way; the n-th time the n-th of those made for it, round and round. The chosen one where there is none. */
export const drillFor = (
  drills: readonly Pick<Drill, 'repetitionKind'>[],
  repetitionKind: RepetitionKind,
  chosen: number,
  /** Which drills were played so far, in order. */
  played: readonly number[],
): number => {
  const own = drills.flatMap((drill, index) => (drill.repetitionKind === repetitionKind ? [index] : []));
  if (repetitionKind === 'asked' || own.length === 0) return chosen;
  return own[played.filter((index) => own.includes(index)).length % own.length] as number;
};
