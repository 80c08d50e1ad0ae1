import { describe, expect, it } from 'vitest';
import { madeResults } from '../player/made-results';
import { BUILT_IN_PASSAGES } from '../rhythm/built-in-passages';
import { gridOf } from '../rhythm/grid-of';
import { makeDrill } from '../rhythm/methods/make-drill';
import type { Passage } from '../schema/passage';
import { makeReason } from '../schema/reason';
import type { Repetition } from '../schema/take';
import { constantTempo } from '../time/tempo-map';
import { describeReason } from '../words/describe-reason';
import { hardPlace, problemQuestions, suspectStep } from './problem-solving';

const NOTES = 17;
const verdict = { outcome: 'not-yet' as const, reason: 'spread' as const, why: makeReason('none') };
const repetitionsOf = (seed: number, habitMs: readonly number[] = [], count = 4) =>
  madeResults({ repetitions: count, notes: NOTES, unsteadinessMs: 25, seed, habitMs }).map((notes) => ({
    drill: 0,
    notes,
    verdict,
    tempo: constantTempo(80),
    measures: { spreadMs: null },
    decision: { action: 'hold' },
  }));
/** From a note on, or one note alone, later than the others. */
const late = (at: number, ms: number) => Array.from({ length: NOTES }, (_, k) => (k >= at ? ms : 0));
const lateOnce = (at: number, ms: number) => Array.from({ length: NOTES }, (_, k) => (k === at ? ms : 0));

describe('the suspect when a tempo will not come clean', () => {
  it('is none where nothing repeats itself, in 99 of 100 pauses', () => {
    const suspected = Array.from({ length: 500 }, (_, seed) => suspectStep(repetitionsOf(seed + 1))).filter(Boolean);
    expect(suspected.length).toBeLessThanOrEqual(5);
  });

  it('is the step that goes wrong again and again, with how far', () => {
    const found = Array.from({ length: 100 }, (_, seed) => suspectStep(repetitionsOf(seed + 1, late(7, 150))));
    expect(found.filter((step) => step?.fromIndex === 6).length).toBeGreaterThan(90);
    for (const step of found) if (step) expect(step.differenceMs).toBeGreaterThan(90);
  });

  it('is the step that leads to a note that is late every time, and not the one after it', () => {
    const found = Array.from({ length: 100 }, (_, seed) => suspectStep(repetitionsOf(seed + 1, lateOnce(7, 120))));
    expect(found.filter((step) => step?.fromIndex === 6).length).toBeGreaterThan(90);
    expect(found.filter((step) => step && step.fromIndex !== 6)).toEqual([]);
  });

  it('is no step that was far off once, however far', () => {
    const [first, second, third] = repetitionsOf(3);
    const [slip] = repetitionsOf(4, late(7, 400), 1);
    expect(suspectStep([first, second, third, slip].flatMap((one) => one ?? []))).toBeNull();
  });

  it('is looked for in the drill that is played, and in what was judged', () => {
    const habit = repetitionsOf(5, late(7, 150));
    expect(suspectStep(habit)).not.toBeNull();
    expect(suspectStep(habit.map((one, k) => ({ ...one, drill: k < 3 ? 1 : 0 })))).toBeNull();
    const unjudged = { ...verdict, outcome: 'not-judged' as const };
    expect(suspectStep(habit.map((one) => ({ ...one, verdict: unjudged })))).toBeNull();
    expect(suspectStep([])).toBeNull();
  });

  it('is asked for first; without one the other questions stand alone', () => {
    const say = (of: ReturnType<typeof repetitionsOf>) =>
      problemQuestions(of as never).map((one) => describeReason(one, { noteNaming: 'british' }));
    expect(say(repetitionsOf(5, late(7, 150)))[0]).toMatch(
      /^The step from note 7 to the next was about \d+ ms too long again and again\. Is it that one\?$/,
    );
    expect(say(repetitionsOf(6))).toHaveLength(3);
  });
});

describe('the hard place', () => {
  const passage = BUILT_IN_PASSAGES.find(({ bars }) => bars > 1) as Passage;
  const grid = gridOf(passage);
  const notes = grid.events.length;
  const straight = makeDrill('straight', {}, grid);
  const played = { fromBar: 5, toBar: 5 + passage.bars - 1 };
  /** Repetitions that broke at these notes; those with null went through, the step after `late` too long in each. */
  const broke = (at: readonly (number | null)[], late = -1) =>
    at.map((note) => ({
      drill: 0,
      notes: grid.events.map((_, k) => ({ ioiDifferenceMs: k === late ? 40 : 0 })),
      measures: note === null ? {} : { brokenOff: { note, of: notes, bar: 1 } },
      verdict: { outcome: note === null ? 'off' : 'broken' },
    })) as unknown as Repetition[];

  const often = <T>(one: T) => Array.from({ length: 8 }, () => one);

  it('is where it breaks again and again, in its bar as counted on the page, before a step that goes wrong', () => {
    const place = { note: notes - 1, bars: { fromBar: played.toBar, toBar: played.toBar } };
    expect(hardPlace(broke([null, ...often(notes - 1)]), straight, played)).toEqual(place);
    expect(hardPlace(broke([null, null, null, ...often(notes - 1)], 0), straight, played)).toEqual(place);
  });

  it('is the step that goes wrong again and again where nothing breaks', () => {
    expect(hardPlace(repetitionsOf(5, late(7, 150)) as never, straight, played)).toMatchObject({ note: 7 });
  });

  it('is none where it broke once here and once there, or nothing was played', () => {
    expect(hardPlace(broke([notes - 1, 2, null, null]), straight, played)).toBeNull();
    expect(hardPlace([], straight, played)).toBeNull();
  });

  it('is all that was chosen where a drill has bars of its own', () => {
    const blocks = makeDrill('blocks', {}, grid, { size: 3 });
    const last = blocks.grid.events.length - 1;
    expect(hardPlace(broke([null, ...often(last)]), blocks, played)?.bars).toEqual(played);
  });
});
