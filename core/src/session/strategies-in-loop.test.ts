import { describe, expect, it } from 'vitest';
import { MAX_OFFSET_S } from '../align/align';
import { analyseRepetition } from '../measure/analyse-repetition';
import { ownBlock } from '../plan/edit-plan';
import { firstDrill, newPracticeConfig, practiceModeOf } from '../plan/practice-config';
import { anyLearner, repetitionOf } from '../player/learner';
import { simulatePlaying } from '../player/simulate';
import { builtInPassage } from '../rhythm/built-in-passages';
import type { PassageRepetitions } from '../schema/api';
import { type RunBlock, SessionRunSchema } from '../schema/block-run';
import type { MethodUse } from '../schema/grid';
import type { Passage } from '../schema/passage';
import { DEFAULT_SETTINGS } from '../schema/settings';
import { type Skill, STEADY } from '../schema/skill';
import { TOLERANCE_PRESETS } from '../schema/tolerance';
import { profileOf } from '../signal/profiles';
import { beginStrategy } from '../strategies/strategies';
import { constantTempo, headlineBpm, openTempo } from '../time/tempo-map';
import { describeReason } from '../words/describe-reason';
import { compareStrategies, strategiesSentence } from './compare-strategies';
import { configuredStart } from './configured-start';
import { advance } from './loop';
import { IDLE, type LoopState } from './loop-state';
import { makeTake } from './make-take';
import { playedOn, restDue } from './playing-stretch';
import { proposeStrategy } from './propose-strategy';
import {
  afterTakeInRun,
  beginRun,
  blockAfter,
  configForBlock,
  isAtWork,
  isOfToday,
  leftMs,
  nextInRun,
  pauseRun,
  restLeftMs,
  resumeRun,
  runBlock,
} from './session-run';
import { chosenCount, withStrategyDrills } from './strategy-drills';

const READER = { noteNaming: 'british' } as const;
const passage = builtInPassage('five-steps') as Passage;
const drill = firstDrill(passage);

/** Begins a loop with a strategy, as the Bench does. */
const begin = (strategyId: string, startBpm: number, more = {}): LoopState =>
  advance(IDLE, {
    type: 'begin',
    drills: withStrategyDrills([drill], strategyId, 100),
    target: { goalBpm: 200, startBpm, day: 0, ...more },
    strategy: beginStrategy(strategyId, null),
    tempo: constantTempo(startBpm),
    nowS: 0,
    recordingStartS: 0,
    offset: { nearS: 0, reachS: MAX_OFFSET_S },
  }).state;

/** What is measured of onsets that were played for what a loop has planned. */
const heardAs = ({ plan, drill: asked, offset }: LoopState, onsets: ReturnType<typeof simulatePlaying>) => {
  if (!plan || !asked) throw new Error('nothing is planned');
  return analyseRepetition(onsets, {
    drill: asked,
    plan,
    tolerance: TOLERANCE_PRESETS.secure,
    profile: profileOf('any'),
    latencyS: null,
    offset,
    gap: false,
  });
};

/** The simulated player plays what is planned, as it is measured. */
const playOne = (state: LoopState, skill: Partial<Skill>, seed: number): LoopState => {
  const { plan } = state;
  if (!plan) throw new Error('nothing is planned');
  const onsets = simulatePlaying(plan.notes, { ...STEADY, ...skill }, plan.tempo, seed);
  const analysed = heardAs(state, onsets);
  const playing = advance(state, { type: 'clock', nowS: plan.notes[0]?.timeS ?? 0 }).state;
  return advance(playing, { type: 'analysed', analysed, nowS: plan.endS }).state;
};

describe('a strategy that asks for more than the drill', () => {
  it('takes stopping in a sweep for the break, ends the sweep at once, and works under it', () => {
    const state = begin('below-the-break', 100);
    const { plan } = state;
    if (!plan) throw new Error('nothing is planned');
    const map = openTempo(plan.tempo);
    const until = plan.notes.filter(({ beat }) => map.tempoAt(beat) <= 105);
    const stoppedS = until.at(-1)?.timeS ?? 0;
    const analysed = heardAs(state, simulatePlaying(until, { ...STEADY, spreadMs: 3 }, plan.tempo, 3));
    const playing = advance(state, { type: 'clock', nowS: plan.notes[0]?.timeS ?? 0 }).state;
    const { state: next, effects } = advance(playing, { type: 'analysed', analysed, nowS: stoppedS + 2 });
    expect(next.repetitions[0]?.measures.breakBpm?.value).toBeCloseTo(105, 0);
    expect(headlineBpm(next.tempo)).toBe(102);
    expect(next.drill?.repetitionKind).toBeUndefined();
    // The clicks that were left fall silent, and it goes on without waiting for them.
    expect(effects.map(({ type }) => type)).toContain('silence');
    expect(next.plan?.countInStartS).toBeLessThan(stoppedS + 4);
    expect(next.decisions.failedInARow).toBe(0);
  });

  it('sweeps first, finds the planted break, and the work goes on under it', () => {
    let state = begin('below-the-break', 100);
    expect(state.drill?.repetitionKind).toBe('sweep');
    expect(state.plan?.tempo.kind).toBe('ramp');
    const skill = { spreadMs: 3, easyUpToBpm: 110 };
    state = playOne(state, skill, 5);
    const [sweep] = state.repetitions;
    expect(sweep?.measures.breakBpm?.value).toBeGreaterThan(104);
    expect(sweep?.measures.breakBpm?.value).toBeLessThan(121);
    // Named by the tempo around which it was asked for.
    expect(sweep?.askedBpm).toBe(100);
    expect(state.drill?.repetitionKind).toBeUndefined();
    expect(headlineBpm(state.tempo)).toBe(Math.round(0.97 * (sweep?.measures.breakBpm?.value ?? 0)));
    state = playOne(state, skill, 6);
    const take = makeTake({
      id: '00000000-0000-4000-8000-000000000001',
      sessionId: '00000000-0000-4000-8000-000000000002',
      passage,
      config: { passageId: passage.id, variantId: 'first', sectionId: 'whole' },
      startedAt: new Date(0),
      endedAt: new Date(1000),
      input: 'simulated',
      goalBpm: 200,
      startBpm: 100,
      strategy: null,
      tolerance: TOLERANCE_PRESETS.secure,
      latencyS: null,
      profileId: 'any',
      drills: [...state.drills],
      repetitions: state.repetitions,
    });
    // The take is one of what was chosen; the sweep does not count for its tempo.
    expect(take.drills.map(({ repetitionKind }) => repetitionKind)).toEqual([undefined, 'sweep']);
    expect(take.repetitions.map((one) => one.drill)).toEqual([1, 0]);
    expect(take.summary?.bestCleanBpm ?? 0).toBeLessThan(121);
  });

  it('plays single bursts between the repetitions, which change nothing of the tempo', () => {
    let state = begin('from-both-sides', 60);
    for (let k = 0; k < 5; k += 1) state = playOne(state, { spreadMs: 3 }, k);
    const structured = headlineBpm(state.tempo);
    expect(state.drill?.repetitionKind).toBe('burst');
    const places: number[] = [];
    for (let k = 0; k < 3; k += 1) {
      places.push(state.drills.indexOf(state.drill as never));
      state = playOne(state, { spreadMs: 2 }, 20 + k);
      expect(headlineBpm(state.tempo)).toBe(structured);
    }
    // Each over another group of the passage.
    expect(new Set(places).size).toBe(3);
    expect(state.drill?.repetitionKind).toBeUndefined();
    expect(state.phase).toBe('counting');
  });

  it('has its drills after those that were chosen, and no other strategy has any', () => {
    const drills = withStrategyDrills([drill, drill], 'from-both-sides', 100);
    expect(chosenCount(drills)).toBe(2);
    expect(drills.slice(2).every(({ repetitionKind }) => repetitionKind === 'burst')).toBe(true);
    expect(withStrategyDrills([drill], 'half-speed-climb', 100)).toEqual([drill]);
    expect(withStrategyDrills([], 'below-the-break', 100)).toEqual([]);
  });
});

describe('the end of a take', () => {
  const three = (state: LoopState) => [1, 2, 3].reduce((now, k) => playOne(now, { spreadMs: 3 }, k), state);

  it('comes loose where the player asks for it', () => {
    let state = playOne(begin('half-speed-climb', 100), { spreadMs: 3 }, 1);
    const before = headlineBpm(state.tempo);
    state = advance(state, { type: 'finish', nowS: 20 }).state;
    expect(headlineBpm(state.tempo)).toBe(before - 12);
    state = three(state);
    expect(state).toMatchObject({ phase: 'finished', ended: 'relaxed' });
    expect(describeReason(state.repetitions.at(-1)?.decision.why as never, READER)).toContain('a good place to stop');
  });

  it('comes after the repetition that sounds once the time is up, or loose where that is wished', () => {
    const sounding = (state: LoopState) => advance(state, { type: 'clock', nowS: state.plan?.notes[0]?.timeS ?? 0 }).state;
    let state = sounding(begin('half-speed-climb', 100));
    state = advance(state, { type: 'time-up', nowS: 5 }).state;
    expect(state.phase).toBe('playing');
    expect(playOne(state, { spreadMs: 3 }, 1)).toMatchObject({ phase: 'finished', ended: 'time' });
    expect(advance(begin('half-speed-climb', 100), { type: 'time-up', nowS: 1 }).state.ended).toBe('time');
    let loose = sounding(begin('half-speed-climb', 100, { relaxedFinish: true }));
    loose = advance(loose, { type: 'time-up', nowS: 5 }).state;
    loose = playOne(loose, { spreadMs: 3 }, 1);
    expect(describeReason(loose.repetitions[0]?.decision.why as never, READER)).toBe('To finish loose: 88.');
    expect(three(loose).ended).toBe('relaxed');
  });
});

const config = newPracticeConfig(passage, DEFAULT_SETTINGS);
const days = (...bests: number[]) =>
  bests.map((bestCleanBpm, k) => ({ day: `2026-03-${String(k + 1).padStart(2, '0')}`, bestCleanBpm, startBpm: 60 }));

describe('a strategy is proposed with its reason', () => {
  const proposed = (bests: number[], today = '2026-03-20', goalBpm = 120) =>
    proposeStrategy({ goalBpm }, days(...bests), today);

  it.each([
    ['a new passage', [60], 'half-speed-climb', 'propose-new'],
    ['one that climbs', [60, 65, 70, 74, 78, 82, 86], 'half-speed-climb', 'propose-climb'],
    ['one that is stuck', [80, 90, 90, 89, 90, 91, 90, 90], 'below-the-break', 'propose-stuck'],
    ['one near its goal', [90, 100, 110], 'notch-by-notch', 'propose-near'],
    ['one at its goal', [100, 115, 121], 'beyond-the-goal', 'propose-beyond'],
  ] as const)('for %s', (_what, bests, strategyId, code) => {
    expect(proposed([...bests], '2026-03-10')).toMatchObject({ strategyId, why: { code } });
  });

  it('after a break it is found out again what is possible', () => {
    const { strategyId, why } = proposed([80, 85], '2026-03-30');
    expect(strategyId).toBe('adaptive');
    expect(describeReason(why, READER)).toBe('Not played for 28 days: what you can do now is found out again.');
    expect(proposeStrategy({ goalBpm: 120 }, [], '2026-03-30').strategyId).toBe('half-speed-climb');
  });
});

describe('where a take begins', () => {
  it('follows the strategy where it keeps a tempo of its own, else the last take', () => {
    const weekly = { ...config, strategyId: 'week-step' };
    expect(configuredStart(weekly)).toEqual(configuredStart(config));
    const kept = { ...weekly, strategies: { 'week-step': { options: {}, state: { weekBpm: 84 } } } };
    expect(configuredStart(kept)).toMatchObject({ bpm: 84, why: { code: 'start-school' } });
    expect(configuredStart(kept, 70).bpm).toBe(70);
  });
});

describe('strategies on a history', () => {
  const tries: PassageRepetitions = Array.from({ length: 60 }, (_, k) => {
    const { verdict, toleranceUsage } = repetitionOf(anyLearner(4), 70 + (k % 30), k);
    const take = Math.floor(k / 12);
    return {
      takeId: `00000000-0000-4000-8000-00000000000${take}`,
      startedAt: new Date(Date.UTC(2026, 2, 1 + take)).toISOString(),
      variantId: 'first',
      sectionId: 'whole',
      startBpm: 70,
      bpm: 70 + (k % 30),
      outcome: verdict.outcome,
      ease: null,
      toleranceUsage,
      notes: 17,
      repetitionKind: null,
      breakBpm: null,
      breakLow: null,
      breakHigh: null,
    };
  });

  it('say what they would have asked for after each repetition, and one sentence what differs', () => {
    const lines = compareStrategies(tries, 140);
    expect(lines.length).toBeGreaterThan(5);
    for (const { askedBpm } of lines) expect(askedBpm).toHaveLength(tries.length);
    const sentence = strategiesSentence(lines);
    const shares = lines.map(({ meanShare }) => Math.round(100 * meanShare));
    expect(sentence?.values).toMatchObject({ fastestPct: Math.max(...shares), slowestPct: Math.min(...shares) });
    expect(compareStrategies(tries, 140)).toEqual(lines);
  });

  it('a raise is never asked for after what was not clean', () => {
    for (const { askedBpm } of compareStrategies(tries, 140))
      tries.forEach(({ outcome, bpm }, k) => {
        if (outcome !== 'clean') expect(askedBpm[k]).toBeLessThanOrEqual(bpm);
      });
  });

  it('say nothing of too little', () => {
    expect(compareStrategies(tries.slice(0, 1), 140)).toEqual([]);
    expect(strategiesSentence([])).toBeNull();
  });
});

describe('a rest', () => {
  const MINUTE_MS = 60_000;
  const after = (minutes: readonly number[]) =>
    minutes.reduce<ReturnType<typeof playedOn> | null>((stretch, minute) => playedOn(stretch, minute * MINUTE_MS), null);

  it('is due after so many minutes without one', () => {
    const stretch = after(Array.from({ length: 26 }, (_, k) => k));
    expect(restDue(stretch, 25 * MINUTE_MS, 25)).toBe(25);
    expect(restDue(stretch, 25 * MINUTE_MS, 30)).toBeNull();
    expect(restDue(stretch, 25 * MINUTE_MS, 0)).toBeNull();
  });

  it('is not due after one was taken, nor while it is taken', () => {
    expect(restDue(after([0, 4, 8, 12, 16, 20, 26]), 26 * MINUTE_MS, 25)).toBeNull();
    expect(restDue(after([0, 4, 8, 12, 16, 20, 24]), 30 * MINUTE_MS, 20)).toBeNull();
    expect(restDue(null, 0, 25)).toBeNull();
  });
});

describe('a run of blocks', () => {
  const blocks = ['one', 'two', 'three'].map((passageId) =>
    ownBlock({ config: { passageId, variantId: 'first', sectionId: 'whole' }, title: passageId, minutes: 2 }),
  );
  const run = beginRun(blocks, 0);

  it('lets a break pass before a block that has one, without taking from its time', () => {
    const rested = beginRun([{ ...(blocks[0] as RunBlock), restMin: 3 }, ...blocks.slice(1)], 0);
    expect(restLeftMs(rested, 60_000)).toBe(120_000);
    expect(leftMs(rested, 60_000)).toBe(120_000);
    expect(restLeftMs(rested, 200_000)).toBe(0);
    expect(leftMs(rested, 200_000)).toBe(100_000);
    expect(isOfToday(rested, 11 * 3_600_000)).toBe(true);
    expect(isOfToday(rested, 13 * 3_600_000)).toBe(false);
    // A break that is held goes on where it was.
    expect(restLeftMs(resumeRun(pauseRun(rested, 60_000), 500_000), 530_000)).toBe(90_000);
    expect(SessionRunSchema.safeParse(rested).success).toBe(true);
  });

  it('has a block practise a configuration its own way, and leaves the configuration alone', () => {
    const config = newPracticeConfig(builtInPassage('five-steps') as Passage, DEFAULT_SETTINGS);
    expect(configForBlock(config, { purpose: 'work', uses: [] })).toBe(config);
    expect(configForBlock(config, { purpose: 'slow', uses: [] })).toMatchObject({ strategyId: 'free', methodId: 'straight' });
    const uses: MethodUse[] = [
      { id: 'around', parameters: { from: 2, to: 6 } },
      { id: 'long-short', parameters: { size: 2 } },
    ];
    expect(configForBlock(config, { purpose: 'work', uses })).toMatchObject({
      methodId: 'around',
      alsoMethodId: 'long-short',
      methodParameters: { around: { from: 2, to: 6 } },
      strategyId: config.strategyId,
    });
    // What is slow on purpose says nothing of how fast it goes.
    expect(practiceModeOf({ drills: [], purpose: 'slow' })).toBe('slow');
  });

  it('keeps to its time boxes, which stand while it is held', () => {
    expect(leftMs(run, 30_000)).toBe(90_000);
    expect(leftMs(run, 500_000)).toBe(0);
    const held = pauseRun(run, 30_000);
    expect(leftMs(held, 900_000)).toBe(90_000);
    expect(pauseRun(held, 50_000)).toEqual(held);
    expect(leftMs(resumeRun(held, 900_000), 910_000)).toBe(80_000);
  });

  it('goes from block to block, each with its whole time, and ends after the last', () => {
    const second = nextInRun(run, 120_000);
    expect(second && runBlock(second).title).toBe('two');
    expect(second && leftMs(second, 120_000)).toBe(120_000);
    expect(second && blockAfter(second)?.title).toBe('three');
    const third = second && nextInRun(second, 240_000);
    expect(third && blockAfter(third)).toBeNull();
    expect(third && nextInRun(third, 360_000)).toBeNull();
    expect(isAtWork(run, blocks[0]?.config as never)).toBe(true);
    expect(isAtWork(run, blocks[1]?.config as never)).toBe(false);
    expect(isAtWork(null, blocks[0]?.config as never)).toBe(false);
    expect(SessionRunSchema.parse(JSON.parse(JSON.stringify(third)))).toEqual(third);
  });

  it('is held where the player stops, led on by time and goal, ended by pain', () => {
    expect(afterTakeInRun(run, 'stopped', 10_000)).toBe('pause');
    expect(afterTakeInRun(run, 'input-lost', 10_000)).toBe('pause');
    expect(afterTakeInRun(run, 'stopped', 130_000)).toBe('next');
    expect([afterTakeInRun(run, 'time', 0), afterTakeInRun(run, 'goal', 0), afterTakeInRun(run, 'relaxed', 0)]).toEqual([
      'next',
      'next',
      'next',
    ]);
    expect(afterTakeInRun(run, 'pain', 10_000)).toBe('end');
  });
});
