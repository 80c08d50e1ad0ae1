import { z } from 'zod';
import { type TempoCurve, tempoCurve } from '../curve/tempo-curve';
import { type Tried, triedFrom } from '../curve/unsteadiness-fit';
import { atGoal, hold, lower, raise } from './answers';
import { downFrom, isWide } from './down-from';
import { GOAL_CLEANS_FIELD, GoalCleans } from './goal-cleans';
import type { RepetitionOutcome, TempoStrategy } from './strategy';
import { STUCK_BY } from './stuck';

const Options = z.object({
  wantedPct: z.union([z.literal(70), z.literal(80), z.literal(90)]).default(80),
  stepBpm: z.union([z.literal(3), z.literal(5), z.literal(10)]).default(5),
  goalCleans: GoalCleans,
});

const TriedSchema = z.object({
  bpm: z.number(),
  isClean: z.boolean(),
  toleranceUsage: z.number().nullable(),
  notes: z.number().min(1),
  weight: z.number().min(0).max(1),
});

const State = z.object({
  tries: z.array(TriedSchema).max(60).default([]),
  day: z.number().int().nullable().default(null),
  inARow: z.number().int().min(0).default(0),
  stuck: z.number().min(0).default(0),
  /** Repetitions of this take. */
  turn: z.number().int().min(0).default(0),
});
type AdaptiveState = z.infer<typeof State>;

const MAX_REPETITIONS = 60;
/** Where it is not known how many notes a repetition had. */
const USUAL_NOTES = 16;
/** What a night takes of the weight of what was played before it: what is known widens between days. */
const NIGHT = 0.75;
const MIN_WEIGHT = 0.05;
const STUCK = 2;
/** What it asks for next is tried at once: it goes by what is likeliest, however little that is known. */
const AS_MODELLED = 1;
/**
 * In turn it asks a little less and a little more than is wanted, as shares of clean repetitions: what was never tried far apart tells
 * neither how fast it gets harder nor where it is easy.
 */
const ASIDE = [0, 0, -0.25, 0, 0.1];
const MAX_WANTED = 0.92;
/** What slips allow at no tempo is not waited for: at most this share of what is clean when slow. */
const OF_THE_BEST = 0.95;
/** It goes down by this share of the tempo at most, unless it came apart. */
const MAX_DOWN = 0.15;
/** Nearer than this it stays where it is. */
const NEAR_BPM = 1;

const aged = (state: AdaptiveState, day: number): AdaptiveState => {
  const nights = state.day === null ? 0 : Math.max(0, Math.min(30, day - state.day));
  const tries = state.tries
    .map((one) => ({ ...one, weight: one.weight * NIGHT ** nights }))
    .filter(({ weight }) => weight >= MIN_WEIGHT);
  return { ...state, tries, day };
};

/** A repetition as the curve sees it. */
export const triedOf = ({
  bpm,
  verdict: { outcome },
  toleranceUsage,
  notes = USUAL_NOTES,
}: Pick<RepetitionOutcome, 'bpm' | 'verdict' | 'toleranceUsage' | 'notes'>): Tried =>
  triedFrom({ bpm, outcome, toleranceUsage, notes }, 1);

/** The fastest whole tempo at which a repetition is clean with a chance, all that is not known taken together. */
const tempoWith = (curve: TempoCurve, chance: number, from: number, to: number): number => {
  let [low, high] = [from, to];
  while (high - low > 1) {
    const middle = Math.round((low + high) / 2);
    if (curve.cleanChance(middle) >= chance) low = middle;
    else high = middle;
  }
  return curve.cleanChance(high) >= chance ? high : low;
};

/**
 * Asks for the tempo at which a repetition is clean with the chance that the player wants, by all that was played; a raise takes a clean
 * repetition, and goes no farther than a step.
 */
export const ADAPTIVE: TempoStrategy<z.infer<typeof Options>, AdaptiveState> = {
  id: 'adaptive',
  name: 'By the numbers',
  about: 'Asks for the tempo at which, by all that you played lately, eight repetitions in ten would be clean.',
  options: Options,
  fields: [
    {
      key: 'wantedPct',
      label: 'Clean',
      choices: [70, 80, 90].map((percent) => ({ value: percent, name: `${percent / 10} times in 10` })),
    },
    { key: 'stepBpm', label: 'Step at most', choices: [3, 5, 10].map((step) => ({ value: step, name: `${step}` })) },
    GOAL_CLEANS_FIELD,
  ],
  state: State,
  begin: (_options, kept) => ({ tries: kept?.tries ?? [], day: kept?.day ?? null, inARow: 0, stuck: 0, turn: 0 }),
  close: (state) => state,
  next(state, played, { wantedPct, stepBpm, goalCleans }, target) {
    const { bpm, verdict } = played;
    const isClean = verdict.outcome === 'clean';
    const before = aged(state, target.day ?? 0);
    const seen: AdaptiveState = {
      ...before,
      tries: [...before.tries, triedOf(played)].slice(-MAX_REPETITIONS),
      inARow: isClean ? before.inARow + 1 : 0,
      stuck: isClean ? 0 : before.stuck + STUCK_BY[verdict.outcome],
      turn: before.turn + 1,
    };
    if (isClean && bpm >= target.goalBpm) return atGoal(seen, bpm, seen.inARow, goalCleans);
    const curve = tempoCurve(seen.tries, AS_MODELLED);
    if (!curve) {
      // Too little is known yet: up while it is clean with ease, else once more, down where it stays so.
      if (isClean && (isWide(played) || seen.inARow >= 2)) {
        const next = Math.min(target.goalBpm, bpm + stepBpm);
        return raise({ ...seen, inARow: 0 }, next, 'climb-step');
      }
      if (isClean || (seen.stuck < STUCK && verdict.outcome !== 'broken')) return hold(seen, bpm, 'adaptive-learning');
      const down = downFrom(played, stepBpm, target);
      return lower({ ...seen, stuck: 0 }, down.bpm, down.isFar ? 'climb-far' : 'climb-below');
    }
    const least = Math.max(10, Math.round(target.startBpm / 2));
    const aside = ASIDE[seen.turn % ASIDE.length] as number;
    const share = Math.min(MAX_WANTED, wantedPct / 100 + aside, OF_THE_BEST * curve.cleanChance(least));
    const far = verdict.outcome === 'broken' ? least : Math.max(least, Math.round(bpm * (1 - MAX_DOWN)));
    const wanted = tempoWith(curve, share, far, Math.max(far, bpm + stepBpm));
    const percent = (at: number) => Math.round(100 * curve.cleanChance(at));
    const next = Math.min(target.goalBpm, bpm + stepBpm, wanted);
    if (next > bpm + NEAR_BPM || (next > bpm && next === target.goalBpm))
      return isClean
        ? raise({ ...seen, inARow: 0 }, next, 'adaptive-up', { percent: percent(next) })
        : hold(seen, bpm, 'adaptive-same', { percent: percent(bpm) });
    if (next < bpm - NEAR_BPM && isClean) return lower({ ...seen, stuck: 0 }, next, 'adaptive-aside');
    if (next < bpm - NEAR_BPM) return lower({ ...seen, stuck: 0 }, next, 'adaptive-down', { percent: percent(next) });
    return hold(seen, bpm, 'adaptive-same', { percent: percent(bpm) });
  },
};
