import { describe, expect, it } from 'vitest';
import type { Outcome, Verdict } from '../schema/verdict';
import { chance } from '../stats/random';
import { mean } from '../stats/summary';
import { constantTempo, headlineBpm } from '../time/tempo-map';
import { describeReason } from '../words/describe-reason';
import { beginDecisions, type DecisionState, decide } from './decide';
import { burstTempo } from './from-both-sides';
import { STAIRCASE, STAIRCASE_RULES, staircaseEstimate } from './staircase';
import { beginStrategy, nextRepetitionKind, resumeStrategy, snapshotOf, strategyStart } from './strategies';
import type { RepetitionOutcome, SessionTarget } from './strategy';

const READER = { noteNaming: 'british' } as const;
const TARGET: SessionTarget = { goalBpm: 120, startBpm: 60, day: 0 };
const verdict = (outcome: Outcome): Verdict => ({ outcome, reason: 'none', why: { code: 'none', values: {} } });

/** Plays a list of outcomes through a strategy, each at the tempo decided before. */
const player = (id: string, options: Record<string, unknown> = {}, target: SessionTarget = TARGET) => {
  let decisions: DecisionState = beginDecisions(beginStrategy(id, { options: options as never, state: null }));
  let bpm = target.startBpm;
  const play = (outcome: Outcome, more: Partial<RepetitionOutcome> = {}) => {
    const own = {
      tempo: constantTempo(bpm),
      bpm,
      verdict: verdict(outcome),
      toleranceUsage: 0.9,
      ease: 'working' as const,
      ...more,
    };
    const next = decide(decisions, own, target);
    decisions = next.decisions;
    bpm = headlineBpm(next.decision.tempo);
    return { ...next.decision, bpm, said: describeReason(next.decision.why, READER) };
  };
  return {
    play,
    many: (outcomes: readonly Outcome[], more: Partial<RepetitionOutcome> = {}) => outcomes.map((one) => play(one, more).bpm),
    at: (other: number) => {
      bpm = other;
    },
    nextDay: () => {
      decisions = beginDecisions(beginStrategy(id, snapshotOf(decisions.strategy)));
      target = { ...target, day: (target.day ?? 0) + 1 };
    },
    strategy: () => decisions.strategy,
    decisionState: () => decisions,
  };
};
const clean = (times: number): Outcome[] => Array.from({ length: times }, () => 'clean');

describe('notch by notch', () => {
  it('goes one mark up after ten clean in a row, and a miss begins the count anew', () => {
    const one = player('notch-by-notch');
    expect(one.many(clean(10)).at(-1)).toBe(63);
    one.many(clean(9));
    expect(one.play('close')).toMatchObject({ bpm: 63, said: 'Not clean, so the count of 10 begins anew at 63.' });
    expect(one.many(clean(9)).at(-1)).toBe(63);
    expect(one.play('clean').bpm).toBe(66);
  });

  it('takes three for a mark that was earned before, another day', () => {
    const one = player('notch-by-notch');
    one.many(clean(10));
    one.nextDay();
    one.at(60);
    expect(one.many(clean(3))).toEqual([60, 60, 63]);
    expect(one.many(clean(3))).toEqual([63, 63, 63]);
  });

  it('goes a notch down where it stays stuck, never to the goal by luck', () => {
    const one = player('notch-by-notch', {}, { ...TARGET, startBpm: 80 });
    expect(one.many(['not-yet', 'clean', 'not-yet', 'clean', 'not-yet', 'clean', 'not-yet', 'not-yet']).at(-1)).toBe(76);
  });
});

describe('edge and stamina', () => {
  it('climbs to the limit of the day, drops by ten, holds, and nudges up after six', () => {
    const one = player('edge-and-stamina', {}, { ...TARGET, startBpm: 90 });
    expect(one.many(clean(2), { toleranceUsage: 0.4 })).toEqual([95, 100]);
    const limit = one.many(['not-yet', 'not-yet']);
    expect(limit).toEqual([100, 90]);
    expect(one.many(clean(6))).toEqual([90, 90, 90, 90, 90, 92]);
    expect(one.strategy().state).toMatchObject({ limitBpm: 100, longestHold: 6, phase: 'hold' });
  });
});

describe('the week step', () => {
  it('finds the tempo of the week on the first day and goes up after five good days', () => {
    const one = player('week-step', {}, { ...TARGET, startBpm: 80 });
    expect(one.many(clean(2), { toleranceUsage: 0.3 })).toEqual([85, 90]);
    expect(one.play('close').said).toBe('Once more at 90, to find the tempo of the week.');
    one.play('clean');
    expect(one.play('clean').said).toContain('90');
    for (let day = 0; day < 5; day += 1) {
      expect(one.many(clean(5)).at(-1)).toBe(90);
      one.nextDay();
      expect(strategyStart(one.strategy())).toBe(90);
    }
    expect(one.play('clean')).toMatchObject({ action: 'raise', bpm: 95 });
  });

  it('does not count a day on which too little was clean', () => {
    const one = player('week-step', { days: 2 }, { ...TARGET, startBpm: 80 });
    one.many(clean(2));
    for (let day = 0; day < 4; day += 1) {
      one.many(['clean', 'close', 'clean', 'close', 'clean', 'close']);
      one.nextDay();
    }
    expect(one.play('clean')).toMatchObject({ action: 'hold', bpm: 80 });
  });

  it('does not count a day of clean repetitions that felt tense, and says how the day goes', () => {
    const daysOf = (tense: number) => {
      const one = player('week-step', { days: 2 }, { ...TARGET, startBpm: 80 });
      one.many(clean(2));
      for (let day = 0; day < 2; day += 1) {
        for (let k = 0; k < 6; k += 1) {
          one.at(80);
          const { said } = one.play('clean', { ease: k < tense ? 'tense' : 'easy' });
          if (day === 0 && k === 5)
            expect(said).toBe(
              `Clean: 80 for this week. 0 good days of 2; ${tense > 1 ? 'not yet today' : 'today is one as well so far'}.`,
            );
        }
        one.nextDay();
      }
      one.at(80);
      return one.play('clean').action;
    };
    expect(daysOf(0)).toBe('raise');
    expect(daysOf(1)).toBe('raise');
    expect(daysOf(3)).toBe('hold');
  });
});

describe('beyond the goal', () => {
  it('goes past the goal by the overshoot, then back to it, and is done there', () => {
    const one = player('beyond-the-goal', { overshootPct: 10 }, { goalBpm: 100, startBpm: 95 });
    const bpm = one.many(clean(5), { toleranceUsage: 0.3 });
    expect(bpm).toEqual([100, 105, 110, 110, 110]);
    expect(one.play('clean')).toMatchObject({ action: 'lower', bpm: 100, said: expect.stringContaining('beyond the goal') });
    expect([one.play('clean').action, one.play('clean').action, one.play('clean').action]).toEqual(['hold', 'hold', 'goal']);
  });

  it('is an addition to any strategy as well', () => {
    const one = player('notch-by-notch', { times: 3 }, { goalBpm: 60, startBpm: 60, overshootPct: 8 });
    expect(one.many(clean(3)).at(-1)).toBe(63);
    one.many(clean(3));
    expect(one.many(clean(3)).at(-1)).toBe(60);
    one.many(clean(2));
    expect(one.play('clean').action).toBe('goal');
  });
});

describe('from both sides', () => {
  it('asks for bursts between the repetitions of a climb, and says how far the two are apart', () => {
    const one = player('from-both-sides');
    expect(one.many(clean(5), { toleranceUsage: 0.9 })).toEqual([65, 70, 75, 80, 85]);
    expect(nextRepetitionKind(one.strategy())).toBe('burst');
    const burst = { repetitionKind: 'burst' as const, ownBpm: 130 };
    expect(one.play('clean', burst)).toMatchObject({
      action: 'hold',
      bpm: 85,
      said: 'Bursts come out at about 130; the whole stands at 85.',
    });
    one.play('not-yet', { ...burst, ownBpm: 150 });
    one.play('close', { ...burst, ownBpm: 126 });
    expect(nextRepetitionKind(one.strategy())).toBe('asked');
    expect(burstTempo(one.strategy().state as never)).toBe(128);
    // What a burst came to changes nothing of the structured tempo, and is no failure.
    expect(one.decisionState().failedInARow).toBe(0);
    expect(one.play('clean').bpm).toBe(90);
  });
});

describe('below the break', () => {
  it('sweeps, works under the break, and sweeps again after six clean ones', () => {
    const one = player('below-the-break', {}, { ...TARGET, startBpm: 70 });
    expect(nextRepetitionKind(one.strategy())).toBe('sweep');
    expect(one.play('not-yet', { repetitionKind: 'sweep', breakBpm: null })).toMatchObject({ action: 'raise', bpm: 87 });
    expect(one.play('not-yet', { repetitionKind: 'sweep', breakBpm: 100 })).toMatchObject({
      action: 'raise',
      bpm: 97,
      said: 'Evenness broke at about 100: the work is under that, at 97; accent the beats.',
    });
    expect(nextRepetitionKind(one.strategy())).toBe('asked');
    expect(one.many(clean(6)).at(-1)).toBe(97);
    expect(nextRepetitionKind(one.strategy())).toBe('sweep');
    expect(one.play('broken', { repetitionKind: 'sweep', breakBpm: 90 })).toMatchObject({ action: 'lower', bpm: 87 });
  });

  it('says which notes went first', () => {
    const one = player('below-the-break', {}, { ...TARGET, startBpm: 80 });
    const swept = { repetitionKind: 'sweep' as const, breakBpm: 100 };
    expect(one.play('not-yet', { ...swept, wentFirst: [5] }).said).toBe(
      'Evenness broke at about 100: the work is under that, at 97; note 6 went first: accent it, and the beats.',
    );
    expect(one.play('not-yet', { ...swept, wentFirst: [5, 10] }).said).toContain('notes 6 and 11 went first: accent them, and');
  });

  it('does not take a sweep that told nothing for one that held', () => {
    const one = player('below-the-break');
    expect(one.play('broken', { repetitionKind: 'sweep', breakBpm: null })).toMatchObject({ action: 'hold', bpm: 60 });
  });
});

describe('the staircase', () => {
  // Transformed rules: Levitt, J. Acoust. Soc. Am. 49 (1971), table I. Weighted: Kaernbach, Percept. Psychophys. 49 (1991).
  it.each([
    ['two', 70.7],
    ['three', 79.4],
    ['four', 84.1],
    ['weighted-75', 75],
    ['weighted-80', 80],
    ['weighted-85', 85],
  ] as const)('by the rule “%s” settles at %f %%, within 1.5 points', (rule, published) => {
    const { uniform } = chance(5);
    const options = STAIRCASE.options.parse({ rule, stepBpm: 1 });
    const chanceAt = (bpm: number) => 1 / (1 + Math.exp((bpm - 110) / 12));
    let state = STAIRCASE.begin(options, null);
    let bpm = 80;
    const tempos: number[] = [];
    let cleans = 0;
    for (let k = 0; k < 20_000; k += 1) {
      const isClean = uniform() < chanceAt(bpm);
      const played = { tempo: constantTempo(bpm), bpm, verdict: verdict(isClean ? 'clean' : 'not-yet'), toleranceUsage: 0.9 };
      const next = STAIRCASE.next(state, { ...played, ease: 'working' }, options, { goalBpm: 300, startBpm: 80 });
      state = next.state;
      bpm = headlineBpm(next.tempo);
      if (k >= 500) {
        tempos.push(bpm);
        cleans += isClean ? 1 : 0;
      }
    }
    expect(Math.abs((100 * cleans) / tempos.length - published)).toBeLessThan(1.5);
    expect(Math.abs(100 * chanceAt(mean(tempos)) - published)).toBeLessThan(1.5);
    expect(100 * STAIRCASE_RULES[rule].settlesAt).toBeCloseTo(published, 1);
    // The last dozen turns tell it roughly.
    expect(Math.abs(chanceAt(staircaseEstimate(state) as number) - published / 100)).toBeLessThan(0.12);
  });

  it('opens with wide steps until it turns', () => {
    const one = player('staircase');
    expect(one.many(clean(6))).toEqual([60, 60, 66, 66, 66, 72]);
    expect(one.many(['not-yet', ...clean(3)])).toEqual([70, 70, 70, 72]);
  });
});

describe('by the numbers', () => {
  it('holds where the wanted share is clean, and forgets a little each night', () => {
    const one = player('adaptive', {}, { ...TARGET, goalBpm: 200, startBpm: 80 });
    const { uniform } = chance(3);
    const tempos: number[] = [];
    let bpm = 80;
    for (let k = 0; k < 60; k += 1) {
      const toleranceUsage = 0.5 * 1.5 ** (Math.max(0, bpm / 100 - 1) / 0.1) * Math.exp(0.2 * (uniform() - 0.5));
      const told = one.play(toleranceUsage < 0.95 ? 'clean' : 'not-yet', { toleranceUsage, notes: 17 });
      // A raise takes a clean repetition and goes no farther than a step.
      if (told.bpm > bpm) expect(toleranceUsage).toBeLessThan(0.95);
      expect(told.bpm - bpm).toBeLessThanOrEqual(5);
      bpm = told.bpm;
      if (k >= 20) tempos.push(bpm);
    }
    // Just allowed at 100 · (1 + 0.1 · ln 1.9/ln 1.5) = 115.8.
    expect(mean(tempos)).toBeGreaterThan(106);
    expect(mean(tempos)).toBeLessThan(116);
    const before = (one.strategy().state as { tries: { weight: number }[] }).tries;
    one.nextDay();
    one.play('clean', { toleranceUsage: 0.5 });
    const after = (one.strategy().state as { tries: { weight: number }[] }).tries;
    expect(after.at(-2)?.weight).toBeCloseTo(0.75 * (before.at(-1)?.weight ?? 0), 9);
  });
});

describe('a relaxed finish', () => {
  const falling: Outcome[] = [...clean(6), 'not-yet', 'close', 'not-yet', 'clean', 'not-yet', 'close', 'not-yet'];

  it('backs off once it begins to fall apart, and ends loose', () => {
    const one = player('half-speed-climb', {}, { ...TARGET, startBpm: 80, relaxedFinish: true });
    const decided = falling.map((outcome) => one.play(outcome));
    const at = decided.findIndex(({ why }) => why.code === 'finish-begin');
    expect(at).toBeGreaterThan(6);
    const begun = decided[at] as (typeof decided)[number];
    expect(begun.bpm).toBe((decided[at - 1]?.bpm ?? 0) - 12);
    const rest = [one.play('clean'), one.play('clean'), one.play('clean')].map(({ action }) => action);
    expect(rest.includes('done')).toBe(true);
  });

  it('is none where it was not asked for, nor for a player who goes on well', () => {
    const without = player('half-speed-climb', {}, { ...TARGET, startBpm: 80 });
    expect(falling.map((outcome) => without.play(outcome).why.code)).not.toContain('finish-begin');
    const well = player('half-speed-climb', {}, { ...TARGET, startBpm: 60, relaxedFinish: true });
    const outcomes: Outcome[] = Array.from({ length: 30 }, (_, k) => (k % 4 === 3 ? 'close' : 'clean'));
    expect(outcomes.map((outcome) => well.play(outcome).why.code)).not.toContain('finish-begin');
  });
});

describe('before a raise', () => {
  it('few notes take more clean repetitions', () => {
    const one = player('half-speed-climb');
    expect(one.many(clean(3), { notes: 4 })).toEqual([60, 60, 65]);
    expect(player('half-speed-climb').play('clean', { notes: 6 }).said).toBe(
      'Clean, but it is only a few notes: 1 more in a row at 60 before it goes up.',
    );
  });

  it('so many repetitions as the player set', () => {
    const one = player('half-speed-climb', {}, { ...TARGET, minRepetitions: 4 });
    expect(one.many(clean(5))).toEqual([60, 60, 60, 65, 65]);
  });
});

it('a strategy goes on from what it kept, in the middle of a loop as well', () => {
  const one = player('below-the-break');
  one.play('not-yet', { repetitionKind: 'sweep', breakBpm: 100 });
  const { id, options, state } = one.strategy();
  const again = resumeStrategy(id, JSON.parse(JSON.stringify({ options, state })));
  expect(again).toEqual(one.strategy());
});
