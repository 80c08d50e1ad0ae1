import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { makeReason } from '../schema/reason';
import { TEMPO_RANGE_BPM, TempoMapSchema } from '../schema/tempo';
import type { Outcome, Verdict } from '../schema/verdict';
import { constantTempo, headlineBpm } from '../time/tempo-map';
import { describeReason } from '../words/describe-reason';
import { beginDecisions, type DecisionState, decide } from './decide';
import { FAILURES_BEFORE_PROBLEM } from './guards';
import { beginStrategy, resumeStrategy, STRATEGIES, strategyOf } from './strategies';
import type { RepetitionOutcome } from './strategy';

const READER = { noteNaming: 'british' } as const;
const target = { goalBpm: 120, startBpm: 60 };
const verdict = (outcome: Outcome): Verdict => ({ outcome, reason: 'none', why: makeReason('none') });
const play = (
  bpm: number,
  outcome: Outcome,
  ease: RepetitionOutcome['ease'] = 'working',
  toleranceUsage: number | null = 0.9,
): RepetitionOutcome => ({
  tempo: constantTempo(bpm),
  bpm,
  verdict: verdict(outcome),
  toleranceUsage,
  ease,
});
const begin = (id: string): DecisionState => beginDecisions(beginStrategy(id, null));
const nextBpm = (decided: ReturnType<typeof decide>) => headlineBpm(decided.decision.tempo);

/** Plays a list of outcomes through the climb, each at the tempo decided before; returns the tempos. */
const tempos = (outcomes: readonly Outcome[], toleranceUsage = 0.9, startBpm = target.startBpm): number[] => {
  let decisions = begin('half-speed-climb');
  let bpm = startBpm;
  return outcomes.map((outcome) => {
    const next = decide(
      decisions,
      play(bpm, outcome, 'working', outcome === 'clean' ? Math.min(toleranceUsage, 0.9) : toleranceUsage),
      target,
    );
    decisions = next.decisions;
    bpm = nextBpm(next);
    return bpm;
  });
};
const clean = (times: number): Outcome[] => Array.from({ length: times }, () => 'clean');

describe('the half-speed climb', () => {
  it('goes one step up after each clean repetition', () => {
    expect(tempos(clean(3))).toEqual([65, 70, 75]);
  });

  it('takes the step that the player chose for it', () => {
    const strategy = beginStrategy('half-speed-climb', { options: { stepBpm: 10 }, state: null });
    expect(nextBpm(decide(beginDecisions(strategy), play(60, 'clean'), target))).toBe(70);
  });

  it('holds on close, and once on not yet', () => {
    expect(tempos(['close', 'not-yet', 'clean'])).toEqual([60, 60, 65]);
  });

  it('goes below after the second failure, and takes three clean ones for each nudge near there', () => {
    expect(tempos(['clean', 'not-yet', 'not-yet', ...clean(6)])).toEqual([65, 65, 62, 62, 62, 64, 64, 64, 66]);
  });

  it('goes below at once when it comes apart', () => {
    expect(tempos(['clean', 'clean', 'broken'])).toEqual([65, 70, 67]);
  });

  it('is not held up for the rest of the day by one bad repetition of a player to whom all is easy', () => {
    const wide = (outcomes: Outcome[]) => tempos(outcomes, 0.3).findIndex((bpm) => bpm >= target.goalBpm) + 1;
    const without = wide(clean(40));
    expect(wide(['clean', 'clean', 'broken', ...clean(40)])).toBeLessThanOrEqual(without + 5);
  });

  it('forgets an edge that lies far below what is clean now', () => {
    const strategy = beginStrategy('half-speed-climb', { options: {}, state: { edgeBpm: 70, cleanInARow: 0, stuck: 0 } });
    const { decisions, decision } = decide(beginDecisions(strategy), play(100, 'clean'), target);
    expect(decision).toMatchObject({ action: 'raise', tempo: constantTempo(105) });
    expect(decisions.strategy.state.edgeBpm).toBeNull();
  });

  it('takes close over and over for being stuck, and goes down', () => {
    expect(tempos(['close', 'close', 'close', 'close'])).toEqual([60, 60, 60, 57]);
    expect(tempos(['close', 'not-yet', 'close'])).toEqual([60, 60, 57]);
  });

  it('leads a learner far above their ability down near to where it would be clean', () => {
    const [first, second] = tempos(['not-yet', 'not-yet'], 3.2, 120);
    expect(first).toBe(120);
    expect(second).toBeGreaterThanOrEqual(80);
    expect(second).toBeLessThanOrEqual(90);
  });

  it('is done when the goal is clean three times in a row, and never passes it', () => {
    const near = decide(begin('half-speed-climb'), play(118, 'clean'), target);
    expect(near.decision).toMatchObject({ action: 'raise', tempo: constantTempo(120) });
    const once = decide(near.decisions, play(120, 'clean'), target);
    expect(once.decision).toMatchObject({ action: 'hold' });
    expect(describeReason(once.decision.why, READER)).toBe('Clean at the goal: 2 more in a row at 120 to be sure of it.');
    const twice = decide(once.decisions, play(120, 'clean'), target);
    const missed = decide(twice.decisions, play(120, 'close'), target);
    expect(decide(missed.decisions, play(120, 'clean'), target).decision.action).toBe('hold');
    expect(decide(twice.decisions, play(120, 'clean'), target).decision.action).toBe('goal');
  });

  it('remembers its edge for another day, and climbs afresh', () => {
    const fallen = decide(begin('half-speed-climb'), play(90, 'broken'), target);
    const strategy = strategyOf('half-speed-climb');
    const kept = strategy.close(fallen.decisions.strategy.state);
    const again = beginStrategy('half-speed-climb', { options: {}, state: kept as never });
    expect(again.state).toEqual({ cleanInARow: 0, stuck: 0, edgeBpm: 90 });
  });
});

describe('the free strategy', () => {
  it('leaves the tempo to the player', () => {
    for (const outcome of ['clean', 'close', 'not-yet'] as const)
      expect(nextBpm(decide(begin('free'), play(83, outcome), target))).toBe(83);
  });
});

describe('a tempo', () => {
  it('that came apart and felt tense goes where it came apart to, not to where tension alone would lead', () => {
    const decisions = begin('half-speed-climb');
    const apart = decide(decisions, play(110, 'broken', 'working', 4), target);
    const tense = decide(decisions, play(110, 'broken', 'tense', 4), target);
    expect(nextBpm(apart)).toBeLessThan(100);
    expect(tense.decision).toEqual(apart.decision);
  });

  it('is clamped in one place: from 12, a step of 10 that came apart goes no lower than can be clicked', () => {
    const strategy = beginStrategy('half-speed-climb', { options: { stepBpm: 10 }, state: null });
    const decisions = beginDecisions(strategy);
    const { decision } = decide(decisions, play(12, 'broken'), { goalBpm: 60, startBpm: 12 });
    expect(TempoMapSchema.safeParse(decision.tempo).success).toBe(true);
    expect(decision).toMatchObject({ action: 'lower', tempo: constantTempo(TEMPO_RANGE_BPM.min) });
  });

  it('that is lowered for tension is never raised by it', () => {
    const { decision } = decide(begin('half-speed-climb'), play(15, 'clean', 'tense'), { goalBpm: 60, startBpm: 15 });
    expect(decision).toMatchObject({ action: 'lower', tempo: constantTempo(10) });
    expect(describeReason(decision.why, READER)).toContain('down to 10');
    const lowest = decide(begin('half-speed-climb'), play(10, 'clean', 'tense'), { goalBpm: 60, startBpm: 10 });
    expect(lowest.decision).toMatchObject({ action: 'hold', tempo: constantTempo(10) });
    expect(describeReason(lowest.decision.why, READER)).toBe('It goes no slower than this: again at 10.');
  });
});

describe.each(STRATEGIES.map((strategy) => [strategy.name, strategy] as const))('%s', (_name, strategy) => {
  it('reads empty options, and its own state back from JSON', () => {
    const run = beginStrategy(strategy.id, null);
    const stored = JSON.parse(JSON.stringify({ options: run.options, state: run.state }));
    expect(resumeStrategy(strategy.id, stored)).toEqual(run);
    expect(strategy.state.safeParse(strategy.close(run.state)).success).toBe(true);
  });

  it('begins afresh where what was kept cannot be read', () => {
    const run = beginStrategy(strategy.id, { options: { stepBpm: 'many' }, state: { nonsense: 1, stuck: 'x' } });
    expect(strategy.options.safeParse(run.options).success).toBe(true);
    expect(strategy.state.safeParse(run.state).success).toBe(true);
  });

  it('is stopped by pain, and who can help is named', () => {
    const { decision } = decide(begin(strategy.id), play(80, 'clean', 'pain'), target);
    expect(decision.action).toBe('stop');
    expect(describeReason(decision.why, READER)).toMatch(/doctor or physiotherapist/);
  });

  it('is never raised by a tense repetition', () => {
    expect(decide(begin(strategy.id), play(80, 'clean', 'tense'), target).decision).toMatchObject({
      action: 'lower',
      tempo: constantTempo(70),
    });
  });

  it('goes as low after a tense repetition as after the same one that was not, or lower', () => {
    for (const outcome of ['clean', 'close', 'not-yet', 'broken'] as const)
      for (const usage of [0.9, 2, 5, null]) {
        const [loose, tense] = (['working', 'tense'] as const).map((ease) =>
          nextBpm(decide(begin(strategy.id), play(110, outcome, ease, usage), target)),
        );
        expect(tense).toBeLessThanOrEqual(Math.min(100, loose as number));
      }
  });

  it('takes no step of more than 8 % at slow tempos', () => {
    for (const bpm of [12, 20, 32, 39, 45, 59]) {
      let decisions = begin(strategy.id);
      for (let k = 0; k < 12; k += 1) {
        const next = decide(decisions, play(bpm, 'clean', 'easy', 0.2), target);
        expect(nextBpm(next)).toBeLessThanOrEqual(Math.max(bpm + 1, 1.08 * bpm));
        decisions = next.decisions;
      }
    }
  });

  it('does not go up after a tense repetition until one is answered as easy', () => {
    let { decisions } = decide(begin(strategy.id), play(80, 'clean', 'tense'), target);
    // Its own guard against endless repeating apart, silence never raises.
    for (let k = 0; k < 3; k += 1) {
      const next = decide(decisions, play(70, 'clean', 'working', 0.4), target);
      expect(nextBpm(next)).toBeLessThanOrEqual(70);
      decisions = next.decisions;
    }
    expect(decide(decisions, play(70, 'clean', 'easy', 0.4), target).decisions.tense).toBe(0);
  });

  it('stops to think where it is tense again and again, however even', () => {
    let decisions = begin(strategy.id);
    const actions = [80, 70, 60].map((bpm) => {
      const next = decide(decisions, play(bpm, 'clean', 'tense', 0.4), target);
      decisions = next.decisions;
      return next.decision.action;
    });
    expect(actions).toEqual(['lower', 'lower', 'problem']);
    // With an easy one between them it is not again and again.
    const between = [play(80, 'clean', 'tense'), play(70, 'clean', 'easy'), play(80, 'clean', 'tense')];
    let calm = begin(strategy.id);
    for (const one of between) {
      const next = decide(calm, one, target);
      expect(next.decision.action).not.toBe('problem');
      calm = next.decisions;
    }
  });

  it('changes nothing after an unjudged repetition', () => {
    const decisions = begin(strategy.id);
    const next = decide(decisions, play(80, 'not-judged'), target);
    expect(next.decision).toMatchObject({ action: 'hold', tempo: constantTempo(80) });
    expect(next.decisions).toEqual(decisions);
  });

  it('stops the loop to think after four failures in a row', () => {
    let decisions = begin(strategy.id);
    let action = '';
    for (let k = 0; k < FAILURES_BEFORE_PROBLEM; k += 1) {
      const next = decide(decisions, play(60, 'not-yet'), target);
      decisions = next.decisions;
      action = next.decision.action;
    }
    expect(action).toBe('problem');
    expect(decisions.failedInARow).toBe(0);
  });

  it('names the movement where it fails at a tempo that is slow already', () => {
    const failing = (bpm: number) => {
      let decisions = begin(strategy.id);
      let why = '';
      for (let k = 0; k < FAILURES_BEFORE_PROBLEM; k += 1) {
        const next = decide(decisions, play(bpm, 'not-yet'), { goalBpm: 200, startBpm: bpm });
        decisions = next.decisions;
        why = describeReason(next.decision.why, READER);
      }
      return why;
    };
    expect(failing(44)).toMatch(/the movement is the suspect, not the speed/);
    expect(failing(110)).not.toMatch(/suspect/);
  });

  it('keeps nobody for more than six repetitions where less than every other is clean', () => {
    let decisions = begin(strategy.id);
    let bpm = 100;
    let kept = 0;
    // Never four failures in a row, and one in three clean: no problem, but above what holds.
    for (let k = 0; k < 30; k += 1) {
      const played = play(bpm, k % 3 === 2 ? 'clean' : 'close', 'working', 1.1);
      const next = decide(decisions, played, { goalBpm: 200, startBpm: 100 });
      decisions = next.decisions;
      bpm = nextBpm(next);
      if (strategy.leavesTempo) expect(bpm).toBe(100);
      kept = next.decision.action === 'lower' ? 0 : kept + 1;
      if (!strategy.leavesTempo) expect(kept).toBeLessThan(6);
    }
  });

  it('counts one stumble in again at the same tempo, and takes a second one for what it is', () => {
    const stumble = {
      ...play(90, 'broken'),
      verdict: { outcome: 'broken' as const, reason: 'stumble' as const, why: makeReason('stumble', {}) },
    };
    const once = decide(begin(strategy.id), stumble, target);
    expect(once.decision).toMatchObject({ action: 'hold', tempo: constantTempo(90), why: { code: 'stumbled' } });
    const again = decide(once.decisions, stumble, target);
    expect(again.decision.why.code).not.toBe('stumbled');
    const { decisions } = decide(once.decisions, play(90, 'clean', 'working', 0.3), target);
    expect(decide(decisions, stumble, target).decision.why.code).toBe('stumbled');
  });

  it('stops it to think after eight close ones in a row as well', () => {
    let decisions = begin(strategy.id);
    const actions = Array.from({ length: 8 }, () => {
      const next = decide(decisions, play(60, 'close'), target);
      decisions = next.decisions;
      return next.decision.action;
    });
    expect(actions.at(-1)).toBe('problem');
    expect(actions.slice(0, -1)).not.toContain('problem');
  });

  it('keeps to the range, to its word, and says why, whatever is played', () => {
    const outcomes = fc.constantFrom<Outcome>('clean', 'close', 'not-yet', 'broken', 'not-judged');
    const eases = fc.constantFrom<RepetitionOutcome['ease']>('easy', 'working', 'tense', 'pain');
    const bpm = fc.integer(TEMPO_RANGE_BPM);
    const run = fc.array(fc.tuple(outcomes, eases, fc.option(bpm)), { minLength: 1, maxLength: 25 });
    fc.assert(
      fc.property(run, bpm, bpm, (repetitions, startBpm, goalBpm) => {
        let decisions = begin(strategy.id);
        let at = startBpm;
        for (const [outcome, ease, pendingBpm] of repetitions) {
          const pending = pendingBpm === null ? null : { tempo: constantTempo(pendingBpm) };
          const next = decide(decisions, play(at, outcome, ease), { goalBpm, startBpm }, pending);
          const { decision } = next;
          const to = nextBpm(next);
          expect(TempoMapSchema.safeParse(decision.tempo).success).toBe(true);
          if (decision.action === 'raise') expect(to).toBeGreaterThan(at);
          if (decision.action === 'lower') expect(to).toBeLessThan(at);
          if (decision.action === 'hold') expect(to).toBe(at);
          if (ease === 'tense') expect(decision.action === 'raise' && pending === null).toBe(false);
          const sentence = describeReason(decision.why, READER);
          expect(sentence).toMatch(/[.)]$/);
          if ('bpm' in decision.why.values) expect(decision.why.values.bpm).toBe(to);
          expect(strategy.state.safeParse(next.decisions.strategy.state).success).toBe(true);
          // The same again gives the same.
          expect(decide(decisions, play(at, outcome, ease), { goalBpm, startBpm }, pending)).toEqual(next);
          decisions = next.decisions;
          at = to;
        }
      }),
      { numRuns: 300 },
    );
  });
});

it('falls back to the half-speed climb for a strategy it does not know', () => {
  expect(strategyOf('of-another-version').id).toBe('half-speed-climb');
});
