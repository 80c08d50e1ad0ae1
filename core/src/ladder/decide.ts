import type { Decision } from '../schema/take';
import type { TempoMapDocument } from '../schema/tempo';
import type { Outcome } from '../schema/verdict';
import { type Why, why } from '../schema/why';
import { clampTempo } from '../time/clamp-tempo';
import { constantTempo, headlineBpm } from '../time/tempo-map';
import { guardRuling, isProblem, type Ruling } from './guards';
import type { Aim, Played } from './school';
import { type SchoolRun, schoolOf } from './schools';

/** Where the ladder stands between two repetitions: the school, and the count of failures that stands over every school. */
export interface Ladder {
  school: SchoolRun;
  /** How much was not clean in a row: close ones count half. */
  failedInARow: number;
  /** How many repetitions that were. */
  notCleanInARow: number;
}

/** The ladder at the beginning of a loop. */
export const beginLadder = (school: SchoolRun): Ladder => ({ school, failedInARow: 0, notCleanInARow: 0 });

/** A decision that came too late for the repetition that was sounding, and takes effect after it. */
export interface Owed {
  tempo: TempoMapDocument;
}

/** A reason with the tempo that is really meant: clamping may have changed it. */
const restated = (reason: Why, bpm: number): Why =>
  'bpm' in reason.values ? { ...reason, values: { ...reason.values, bpm } } : reason;

/** Within the range of tempos; a lowering never goes up, a raise never down. */
const inBounds = (ruling: Ruling, fromBpm: number): Ruling => {
  const tempo = clampTempo(ruling.tempo);
  const bpm = headlineBpm(tempo);
  const moved = bpm - fromBpm;
  if ((ruling.action === 'lower' && moved >= 0) || (ruling.action === 'raise' && moved <= 0)) {
    const end = ruling.action === 'lower' ? 'slowest' : 'fastest';
    return { action: 'hold', tempo: constantTempo(fromBpm), why: why(end, { bpm: fromBpm }) };
  }
  return { ...ruling, tempo, why: restated(ruling.why, bpm) };
};

/** How much a repetition adds to being stuck: over and over close is stuck as well, only later. */
const STUCK_BY: Record<Outcome, number> = { clean: 0, 'not-judged': 0, close: 0.5, 'not-yet': 1, broken: 1 };

/** The decision that was owed takes effect, unless the repetition asks for something slower still. */
const settled = (owed: Owed, ruling: Ruling | null, fromBpm: number): Ruling => {
  const owedBpm = headlineBpm(owed.tempo);
  if (ruling?.action === 'stop' || (ruling?.action === 'lower' && headlineBpm(ruling.tempo) < owedBpm)) return ruling;
  const action = owedBpm < fromBpm ? 'lower' : owedBpm > fromBpm ? 'raise' : 'hold';
  return { action, tempo: owed.tempo, why: why('as-answered', { bpm: owedBpm }) };
};

/**
 * The next tempo after a repetition: the guards first, then what is owed, then the school, then the guard against endless
 * failing. Everything is clamped here and nowhere else. Pure: the same ladder and repetition give the same decision, so that a
 * late answer about ease has it taken again from the ladder before.
 */
export const decide = (
  ladder: Ladder,
  played: Played,
  aim: Aim,
  owed: Owed | null = null,
): { ladder: Ladder; decision: Decision } => {
  const done = (next: Ladder, ruling: Ruling) => ({
    ladder: next,
    decision: { ...inBounds(ruling, played.bpm), overruled: false },
  });
  const ruling = guardRuling(played);
  if (owed) return done(ladder, settled(owed, ruling, played.bpm));
  if (ruling) return done(ladder, ruling);
  const school = schoolOf(ladder.school.id);
  const { state, ...answer } = school.next(ladder.school.state, played, ladder.school.options, aim);
  const next = { ...ladder.school, state };
  const isClean = played.verdict.outcome === 'clean';
  const notCleanInARow = isClean ? 0 : ladder.notCleanInARow + 1;
  const failedInARow = isClean ? 0 : ladder.failedInARow + STUCK_BY[played.verdict.outcome];
  if (!isProblem(failedInARow)) return done({ school: next, failedInARow, notCleanInARow }, answer);
  const reason = why('problem', { tries: notCleanInARow });
  return done({ school: next, failedInARow: 0, notCleanInARow: 0 }, { action: 'problem', tempo: answer.tempo, why: reason });
};
