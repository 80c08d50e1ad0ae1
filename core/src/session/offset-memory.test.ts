import { describe, expect, it } from 'vitest';
import { MAX_OFFSET_S } from '../align/align';
import { analyseRepetition } from '../measure/analyse-repetition';
import { firstDrill } from '../plan/practice-config';
import { simulatePlaying } from '../player/simulate';
import { BUILT_IN_PASSAGES } from '../rhythm/built-in-passages';
import { STEADY } from '../schema/skill';
import type { Repetition } from '../schema/take';
import { TOLERANCE_PRESETS } from '../schema/tolerance';
import { profileOf } from '../signal/profiles';
import { chance } from '../stats/random';
import { beginStrategy } from '../strategies/strategies';
import { shortestIntervalMs } from '../time/repetition-plan';
import { constantTempo } from '../time/tempo-map';
import { advance } from './loop';
import { IDLE, type LoopState } from './loop-state';

/** Listening goes on so long after the last note is due, at most. */
const HEARD_AFTER_S = 0.4;
/** The strategy is no part of this: every repetition is at the tempo of the first. */
const SAME_TEMPO = 'free';

interface Case {
  passage: number;
  bpm: number;
  latencyS: number;
  seed: number;
}

/** The loop as it begins, for a player whose sound arrives after a latency that is not known. */
const begin = ({ passage, bpm }: Case): LoopState =>
  advance(IDLE, {
    type: 'begin',
    drills: [firstDrill(BUILT_IN_PASSAGES[passage] as (typeof BUILT_IN_PASSAGES)[number])],
    target: { goalBpm: bpm + 100, startBpm: bpm },
    strategy: beginStrategy(SAME_TEMPO, null),
    tempo: constantTempo(bpm),
    nowS: 3,
    recordingStartS: 0,
    offset: { nearS: 0.02, reachS: MAX_OFFSET_S },
  }).state;

/** One repetition played `shiftS` late (negative: early) through a latency; what is heard of it is analysed. */
const play = (state: LoopState, shiftS: number, latencyS: number, seed: number): LoopState => {
  const { plan, drill, offset } = state;
  if (!plan || !drill) throw new Error('nothing is planned');
  const lastS = plan.notes.at(-1)?.timeS ?? 0;
  const farS = Math.max(MAX_OFFSET_S, 60 / (plan.tempo.kind === 'constant' ? plan.tempo.bpm : 60)) + 0.06;
  const onsets = simulatePlaying(plan.notes, { ...STEADY, placementMs: 0, spreadMs: 4 }, plan.tempo, seed)
    .map(({ timeS, levelDb }) => ({ timeS: timeS + shiftS + latencyS, levelDb }))
    .filter(({ timeS }) => timeS < lastS + offset.nearS + HEARD_AFTER_S);
  const analysed = analyseRepetition(onsets, {
    drill,
    plan,
    tolerance: TOLERANCE_PRESETS.secure,
    profile: profileOf('any'),
    latencyS: null,
    offset: { ...offset, farS },
    gap: false,
  });
  const sounding = advance(state, { type: 'clock', nowS: plan.notes[0]?.timeS ?? 0 }).state;
  return advance(sounding, { type: 'analysed', analysed, nowS: lastS + 0.5 }).state;
};

/** Whether every note was paired with what was played for it: nothing missed or added, and only the unsteadiness left. */
const isRight = ({ measures, verdict }: Repetition): boolean =>
  measures.missed === 0 && measures.extra === 0 && (measures.spreadMs?.value ?? 99) < 9 && verdict.outcome !== 'broken';
const last = (state: LoopState) => state.repetitions.at(-1) as Repetition;

const cases = (count: number): Case[] =>
  Array.from({ length: count }, (_, k) => {
    const { uniform } = chance(900 + k);
    return {
      passage: Math.floor(uniform() * BUILT_IN_PASSAGES.length),
      bpm: 50 + Math.floor(uniform() * 90),
      latencyS: 0.005 + 0.06 * uniform(),
      seed: k + 1,
    };
  });

/** Where an entry can go wrong: by whole intervals, up to a beat, either way. */
const entries = ({ passage, bpm }: Case): number[] => {
  const drill = firstDrill(BUILT_IN_PASSAGES[passage] as (typeof BUILT_IN_PASSAGES)[number]);
  const plan = advance(IDLE, {
    type: 'begin',
    drills: [drill],
    target: IDLE.target,
    strategy: beginStrategy(SAME_TEMPO, null),
    tempo: constantTempo(bpm),
    nowS: 0,
    recordingStartS: 0,
    offset: IDLE.offset,
  }).state.plan;
  const intervalS = shortestIntervalMs(plan?.notes ?? []) / 1000;
  const most = Math.round(60 / bpm / intervalS);
  return Array.from({ length: most }, (_, k) => (k + 1) * intervalS).flatMap((shiftS) => [shiftS, -shiftS]);
};

const share = (found: readonly boolean[]) => found.filter(Boolean).length / found.length;

describe('the memory of the offset', () => {
  it('is not caught by a first entry that came late or early by any number of intervals up to a beat', () => {
    const right = cases(120).flatMap((one) =>
      entries(one).map((shiftS) => {
        const first = play(begin(one), shiftS, one.latencyS, one.seed);
        // Taken as a latency, it is said that it may be none.
        if (last(first).measures.missed === 0) expect(last(first).shiftDoubtful).toBe(true);
        return isRight(last(play(first, 0, one.latencyS, one.seed + 1000)));
      }),
    );
    expect(right.length).toBeGreaterThan(500);
    expect(share(right)).toBeGreaterThanOrEqual(0.99);
  });

  it('is not caught by a later one either', () => {
    const right = cases(120).flatMap((one) =>
      entries(one).map((shiftS) => {
        let state = begin(one);
        for (let k = 0; k < 3; k += 1) state = play(state, 0, one.latencyS, one.seed + 10 * k);
        state = play(state, shiftS, one.latencyS, one.seed + 500);
        return isRight(last(play(state, 0, one.latencyS, one.seed + 1000)));
      }),
    );
    expect(share(right)).toBeGreaterThanOrEqual(0.99);
  });

  it('follows a latency that jumps by up to 300 ms at the very next repetition, says the doubt, and settles on it', () => {
    const jumps = [-0.05, 0.06, 0.11, 0.18, 0.25, 0.3];
    const found = cases(120).map((one) => {
      let state = begin(one);
      for (let k = 0; k < 3; k += 1) state = play(state, 0, one.latencyS, one.seed + 10 * k);
      const latencyS = one.latencyS + (jumps[one.seed % jumps.length] as number);
      state = play(state, 0, latencyS, one.seed + 500);
      const next = last(state);
      const after = last(play(play(state, 0, latencyS, one.seed + 600), 0, latencyS, one.seed + 700));
      return { next: isRight(next), after: isRight(after) && !after.shiftDoubtful };
    });
    expect(share(found.map(({ next }) => next))).toBeGreaterThanOrEqual(0.99);
    expect(share(found.map(({ after }) => after))).toBeGreaterThanOrEqual(0.99);
  });

  it('has no doubt about a player who begins in time', () => {
    const doubtful = cases(120).flatMap((one) => {
      let state = begin(one);
      return Array.from({ length: 4 }, (_, k) => {
        state = play(state, 0, one.latencyS, one.seed + 10 * k);
        return last(state).shiftDoubtful;
      });
    });
    expect(share(doubtful)).toBeLessThanOrEqual(0.01);
  });
});
