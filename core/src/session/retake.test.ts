import { describe, expect, it } from 'vitest';
import { SETTLED_OFFSET_S } from '../align/align';
import { passageOfScore } from '../formats/score/score-passage';
import { readText } from '../formats/score/text-read';
import { analyseRepetition } from '../measure/analyse-repetition';
import { firstDrill, newPracticeConfig } from '../plan/practice-config';
import { simulatePlaying } from '../player/simulate';
import type { Drill } from '../schema/grid';
import type { AfterBreak } from '../schema/settings';
import { DEFAULT_SETTINGS } from '../schema/settings';
import { STEADY } from '../schema/skill';
import { RepetitionSchema, TakeSchema } from '../schema/take';
import { TOLERANCE_PRESETS } from '../schema/tolerance';
import { profileOf } from '../signal/profiles';
import { beginStrategy, snapshotOf } from '../strategies/strategies';
import { constantTempo, headlineBpm } from '../time/tempo-map';
import { deriveTake } from './derive-take';
import { advance } from './loop';
import { IDLE, type LoopState } from './loop-state';
import { makeTake } from './make-take';
import { retakeOf } from './retake';

const BARS = 8;
const text = `meter: 4/4\n${'C4/8 D4 E4 F4 G4 F4 E4 D4 |\n'.repeat(BARS)}`;
const drill = firstDrill(passageOfScore(readText(text), 'long').passage);

const begin = (afterBreak: AfterBreak): LoopState =>
  advance(IDLE, {
    type: 'begin',
    drills: [drill],
    target: { goalBpm: 120, startBpm: 80, afterBreak },
    strategy: beginStrategy('half-speed-climb', null),
    tempo: constantTempo(80),
    nowS: 3,
    recordingStartS: 0,
    offset: { nearS: 0, reachS: SETTLED_OFFSET_S },
  }).state;

/** Plays what is planned, up to a note where it breaks off; and what was asked to sound then. */
const play = (before: LoopState, brokenOffAt?: number, spreadMs = 4) => {
  const { plan, drill: asked } = before;
  if (!plan || !asked) throw new Error('nothing is planned');
  const notes = brokenOffAt === undefined ? plan.notes : plan.notes.slice(0, brokenOffAt);
  const analysed = analyseRepetition(simulatePlaying(notes, { ...STEADY, spreadMs }, plan.tempo, 5), {
    drill: asked,
    plan,
    tolerance: TOLERANCE_PRESETS.secure,
    profile: profileOf('tap'),
    latencyS: null,
    offset: before.offset,
    gap: false,
    ...(brokenOffAt === undefined ? {} : { brokenOffAt }),
  });
  const nowS = (notes.at(-1)?.timeS ?? 0) + (brokenOffAt === undefined ? 0.1 : 2);
  const sounding = advance(before, { type: 'clock', nowS: plan.notes[0]?.timeS ?? 0 }).state;
  const { state, effects } = advance(sounding, { type: 'analysed', analysed, nowS });
  return { state, nowS, kinds: effects.map(({ type }) => type) };
};

const barsOf = ({ drill: asked }: LoopState) => asked?.grid.bars;
const isWhole = ({ drill: asked }: LoopState) => asked === drill;
const bpmOf = ({ tempo }: LoopState) => headlineBpm(tempo);

describe('a repetition that broke off in the loop', () => {
  it('silences the click, is stored as far as it went, and is counted in again at the same tempo', () => {
    const { state, kinds, nowS } = play(begin('beginning'), 43);
    expect(kinds).toEqual(['announce', 'keep', 'silence', 'schedule']);
    expect(state.repetitions[0]).toMatchObject({ verdict: { reason: 'broken-off' }, decision: { why: { code: 'broke-off' } } });
    expect(() => RepetitionSchema.parse(state.repetitions[0])).not.toThrow();
    expect(bpmOf(state)).toBe(80);
    expect(isWhole(state)).toBe(true);
    const silentS = (state.plan?.countInStartS ?? 0) - nowS;
    expect(silentS).toBeGreaterThan(0.9);
    expect(silentS).toBeLessThan(1.6);
    // A second time in a row is the strategy's, and no longer chance.
    expect(bpmOf(play(state, 43).state)).toBeLessThan(80);
  });

  it.each([
    ['bar-before', 4],
    ['bar', 1],
  ] as const)('is taken up from the %s, and from the beginning once that is clean', (how, bars) => {
    const broken = play(begin(how), 43).state;
    expect(barsOf(broken)).toBe(bars);
    expect(broken.drill?.repetitionKind).toBe('retake');
    const again = play(broken, undefined, 60).state;
    expect({ bars: barsOf(again), why: again.repetitions[1]?.decision.why.code }).toEqual({ bars, why: 'retake-again' });
    const held = play(again).state;
    expect({ whole: isWhole(held), why: held.repetitions[2]?.decision.why.code }).toEqual({ whole: true, why: 'retake-clean' });
    expect(bpmOf(held)).toBe(80);
  });

  it('is not taken up without end: after three of them it is begun from the beginning', () => {
    const states = [play(begin('bar'), 43).state];
    for (let k = 0; k < 3; k += 1) states.push(play(states.at(-1) as LoopState, undefined, 60).state);
    expect(states.map(isWhole)).toEqual([false, false, false, true]);
    // Nor does the strategy hear of them: the tempo and its counts are as after the break.
    expect(states.at(-1)?.decisions).toEqual(states[0]?.decisions);
  });

  it('goes where the player says while it is counted in, and stays so', () => {
    const broken = play(begin('beginning'), 43).state;
    const { state, effects } = advance(broken, { type: 'after-break', how: 'bar', nowS: 60 });
    expect(effects.map(({ type }) => type)).toEqual(['silence', 'schedule']);
    expect(barsOf(state)).toBe(1);
    const back = advance(state, { type: 'after-break', how: 'beginning', nowS: 61 }).state;
    expect(isWhole(back)).toBe(true);
    // While something sounds it changes only what comes.
    const sounding = advance(back, { type: 'clock', nowS: back.plan?.notes[0]?.timeS ?? 0 }).state;
    expect(advance(sounding, { type: 'after-break', how: 'bar', nowS: 70 }).effects).toEqual([]);
  });

  it('lets the player change the tempo of the place, and go on to pain and stop', () => {
    const broken = play(begin('bar'), 43).state;
    const faster = advance(broken, { type: 'wish', changeBpm: -10, nowS: 60 }).state;
    expect(bpmOf(faster)).toBe(70);
    expect(advance(broken, { type: 'ease', ease: 'pain', nowS: 60 }).state.ended).toBe('pain');
    expect(advance(broken, { type: 'stop', nowS: 60 }).state.summary).not.toBeNull();
  });
});

describe('a take in which it broke off', () => {
  it('is stored and derived again with the same figures; what was taken up is beside what was chosen', () => {
    const held = play(play(begin('bar'), 43).state).state;
    const passage = passageOfScore(readText(text), 'long').passage;
    const config = newPracticeConfig(passage, DEFAULT_SETTINGS);
    const take = makeTake({
      id: '1b4e28ba-2fa1-4d2e-883f-0016d3cca427',
      sessionId: '1b4e28ba-2fa1-4d2e-883f-0016d3cca428',
      passage,
      config,
      startedAt: new Date('2026-11-30T18:00:00Z'),
      endedAt: new Date('2026-11-30T18:05:00Z'),
      input: 'simulated',
      goalBpm: 120,
      startBpm: 80,
      strategy: snapshotOf(held.decisions.strategy),
      tolerance: TOLERANCE_PRESETS.secure,
      latencyS: null,
      profileId: 'tap',
      drills: [...held.drills],
      repetitions: held.repetitions,
    });
    const parsed = TakeSchema.parse(take);
    expect(parsed.drills.map(({ repetitionKind = null }) => repetitionKind)).toEqual([null, 'retake']);
    expect(deriveTake(parsed)).toEqual(parsed);
    expect(parsed.repetitions.map(({ verdict }) => verdict.reason)).toEqual(['broken-off', 'none']);
    // The place alone is no clean repetition of the whole.
    expect(parsed.summary?.bestCleanBpm).toBeNull();
  });
});

describe('the place of a break', () => {
  it('is cut at its bars; where that is the whole, or the drill cannot be cut, nothing is', () => {
    const notesOf = (how: AfterBreak, bar: number) => retakeOf(drill, { bar }, how)?.grid.events.length ?? null;
    expect([1, 2, 3, 8].map((bar) => notesOf('bar-before', bar))).toEqual([null, null, 56, 16]);
    expect([1, 2, 8].map((bar) => notesOf('bar', bar))).toEqual([8, 8, 8]);
    expect([1, 8].map((bar) => notesOf('beginning', bar))).toEqual([null, null]);
    const shaped: Drill = { ...drill, tempo: [{ beat: 0, share: 1 }] };
    expect(retakeOf(shaped, { bar: 3 }, 'bar')).toBeNull();
    const one = firstDrill(passageOfScore(readText('meter: 4/4\nC4/8 D4 E4 F4 G4 F4 E4 D4 |'), 'one').passage);
    expect(retakeOf(one, { bar: 1 }, 'bar')).toBeNull();
  });
});
