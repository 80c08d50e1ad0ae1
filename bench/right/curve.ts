/** Whether the easy and the edge tempo are where they are said to be, for learners that the model was not made with. */
import { EASY_CHANCE, EDGE_CHANCE, type TempoCurve, type TempoRange } from '@isochron/core/strategy';
import { ODD_LEARNERS, type OddLearner, oddRepetition } from '../players/learners';
import { toldCurve } from '../told-curve';
import { pct, shareOf, type Table } from './table';

const REPETITIONS = 40;
const TRIES = 1500;

/** Nobody learns or tires here: a curve that moves has no one place. */
const at = (learner: OddLearner, bpm: number, seed: number) => oddRepetition(learner, { bpm, played: 0, playedToday: 0, seed });

/** The fastest tempo at which a learner is clean with a chance, over the same draws at every tempo; null where at none. */
const truthOf = (learner: OddLearner, chance: number): number | null => {
  const isReached = (bpm: number) =>
    shareOf(TRIES, (seed) => at(learner, bpm, 9e6 + seed).verdict.outcome === 'clean') >= chance;
  let [low, high] = [20, 300];
  if (!isReached(low)) return null;
  while (high - low > 0.5) {
    const middle = (low + high) / 2;
    if (isReached(middle)) low = middle;
    else high = middle;
  }
  return low;
};

const curveOf = (learner: OddLearner, edgeBpm: number, seed: number) =>
  toldCurve({
    strategyId: 'half-speed-climb',
    startBpm: Math.round(0.6 * edgeBpm),
    goalBpm: Math.round(1.6 * edgeBpm),
    repetitions: REPETITIONS,
    play: (bpm, k) => at(learner, bpm, seed * 1000 + k),
  });

export const curveTable = (times = 40): Table => {
  const rows = ODD_LEARNERS.flatMap((learner) => {
    const edgeBpm = truthOf(learner, EDGE_CHANCE);
    const truths = [
      { name: 'easy', bpm: truthOf(learner, EASY_CHANCE), of: (one: TempoCurve | null) => one?.easy() ?? null },
      { name: 'edge', bpm: edgeBpm, of: (one: TempoCurve | null) => one?.edge() ?? null },
    ];
    const curves = Array.from({ length: times }, (_, k) => curveOf(learner, edgeBpm ?? 60, k + 1));
    return truths.map(({ name, bpm, of }) => {
      const told = curves.map(of).filter((range): range is TempoRange => range !== null);
      const share = (isSo: (range: TempoRange) => boolean) => pct(told.filter(isSo).length / told.length);
      return [
        learner.id,
        name,
        bpm === null ? 'none' : bpm.toFixed(0),
        `${told.length} of ${times}`,
        bpm === null ? '–' : share((range) => range.low <= bpm && bpm <= range.high),
        bpm === null ? '–' : share((range) => Math.abs(range.bpm / bpm - 1) < 0.05),
        pct(told.reduce((sum, range) => sum + (range.high - range.low) / range.bpm, 0) / told.length),
        bpm === null
          ? '–'
          : `${((100 * told.reduce((sum, range) => sum + range.bpm / bpm - 1, 0)) / told.length).toFixed(1)} %`,
      ];
    });
  });
  return {
    title: 'Easy and edge tempo',
    about: `${REPETITIONS} repetitions of the half-speed climb, ${times} of each learner. Wanted: the 90 % interval right in 85 to 95 %, and nothing told where no tempo is easy.`,
    head: ['learner', 'tempo', 'truth, bpm', 'told', 'in its interval', 'within 5 %', 'interval, of the tempo', 'off by, mean'],
    rows,
  };
};
