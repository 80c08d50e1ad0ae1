import { describe, expect, it } from 'vitest';
import { firstDrill } from '../plan/practice-config';
import { builtInPassage } from '../rhythm/built-in-passages';
import { drillsOf } from '../rhythm/methods/methods';
import type { Passage } from '../schema/passage';
import { makeReason } from '../schema/reason';
import type { Repetition, TempoAction } from '../schema/take';
import { type Outcome, OutcomeSchema } from '../schema/verdict';
import { constantTempo } from '../time/tempo-map';
import { spokenDecision } from './spoken';

const drill = firstDrill(builtInPassage('five-steps') as Passage);
const said = (
  outcome: Outcome,
  action: TempoAction,
  toBpm: number,
  { next = drill, brokenOff = false }: { next?: typeof drill | null; brokenOff?: boolean } = {},
) =>
  spokenDecision(
    {
      verdict: { outcome, reason: brokenOff ? 'broken-off' : 'none', why: makeReason('gap') },
      measures: (brokenOff ? { brokenOff: { note: 3, of: 9, bar: 1 } } : {}) as Repetition['measures'],
      tempo: constantTempo(96),
      decision: { action, tempo: constantTempo(toBpm), why: makeReason('gap'), overruled: false },
    },
    next,
    { noteNaming: 'british' },
  );

describe('the word of a verdict', () => {
  it('blames nobody', () => {
    const words = OutcomeSchema.options.map((outcome) => said(outcome, 'hold', 96).split('.')[0]);
    expect(new Set(words).size).toBe(words.length);
    expect(words.join(' ')).not.toMatch(/fail|wrong|bad|error/i);
  });
});

describe('what is said aloud', () => {
  it('is the verdict in a word, and the tempo that comes', () => {
    expect(said('clean', 'raise', 101)).toBe('Clean. Now 101.');
    expect(said('not-yet', 'hold', 96)).toBe('Not yet. 96 again.');
    expect(said('broken', 'lower', 86)).toBe('Came apart. Now 86.');
    expect(said('not-judged', 'hold', 96)).toBe('Not judged. 96 again.');
  });

  it('names the drill that is next, and the end of a take', () => {
    const [, second] = drillsOf(drill.grid, 'long-short');
    expect(said('clean', 'next', 96, { next: second })).toMatch(/^Clean\. Next: Groups of 2, the second long\.$/);
    expect(said('clean', 'goal', 96)).toBe('Clean. The goal is reached.');
    expect(said('clean', 'done', 96)).toBe('Clean. Done.');
    expect(said('not-yet', 'problem', 96)).toBe('Not yet. A moment to think.');
    expect(said('clean', 'stop', 96)).toBe('Stop here.');
  });

  it('calls breaking off by its name, and the place that is taken up', () => {
    expect(said('broken', 'hold', 96, { brokenOff: true })).toBe('Broke off. 96 again.');
    expect(said('broken', 'hold', 96, { brokenOff: true, next: { ...drill, repetitionKind: 'retake' } })).toBe(
      'Broke off. That place again.',
    );
  });
});
