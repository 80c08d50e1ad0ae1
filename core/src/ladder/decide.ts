import type { Decision } from '../schema/take';
import type { TempoMapDocument } from '../schema/tempo';
import { type Why, why } from '../schema/why';
import { clampBpm, clampTempo } from '../time/clamp-tempo';
import { constantTempo, headlineBpm } from '../time/tempo-map';
import { hold } from './answers';
import { beforeRaise } from './before-a-raise';
import { guardRuling, isProblem, type Ruling } from './guards';
import { beginFinish, fallsApart, finishAfter } from './relaxed-finish';
import type { Aim, Answer, Played } from './school';
import { type SchoolRun, schoolOf } from './schools';
import { STUCK_BY } from './stuck';

/** Where the ladder stands between two repetitions: the school, and what stands over every school. */
export interface Ladder {
  school: SchoolRun;
  /** How much was not clean in a row: close ones count half. */
  failedInARow: number;
  /** How many repetitions that were. */
  notCleanInARow: number;
  /** Which repetitions of the take were clean. */
  clean: readonly boolean[];
  /** What was played at the tempo at work. */
  here: { bpm: number; played: number; cleanInARow: number };
  /** Whether it was clean beyond the goal, and is on its way back. */
  isBack: boolean;
  /** Clean ones of the relaxed finish so far; null before it. */
  finishCleans: number | null;
}

/** The ladder at the beginning of a loop. */
export const beginLadder = (school: SchoolRun): Ladder => ({
  school,
  failedInARow: 0,
  notCleanInARow: 0,
  clean: [],
  here: { bpm: 0, played: 0, cleanInARow: 0 },
  isBack: false,
  finishCleans: null,
});

/** A decision that came too late for the repetition that was sounding, and takes effect after it. */
export interface Owed {
  tempo: TempoMapDocument;
  /** The code of its reason, where it is not a late answer about ease. */
  code?: string;
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

/** The decision that was owed takes effect, unless the repetition asks for something slower still. */
const settled = (owed: Owed, ruling: Ruling | null, fromBpm: number): Ruling => {
  const owedBpm = headlineBpm(owed.tempo);
  if (ruling?.action === 'stop' || (ruling?.action === 'lower' && headlineBpm(ruling.tempo) < owedBpm)) return ruling;
  const action = owedBpm < fromBpm ? 'lower' : owedBpm > fromBpm ? 'raise' : 'hold';
  return { action, tempo: owed.tempo, why: why(owed.code ?? 'as-answered', { bpm: owedBpm }) };
};

type SchoolAnswer = Answer<SchoolRun['state']>;

/** What the school says, under the goal that it climbs to; once clean beyond the goal, back to the goal itself. */
const askSchool = (ladder: Ladder, played: Played, aim: Aim): { answer: SchoolAnswer; isBack: boolean } => {
  const { id, options, state } = ladder.school;
  const school = schoolOf(id);
  const overshootPct = Math.max(aim.overshootPct ?? 0, school.overshootPct?.(options) ?? 0);
  const beyondBpm = clampBpm(Math.round(aim.goalBpm * (1 + overshootPct / 100)));
  const goesBeyond = !ladder.isBack && beyondBpm > aim.goalBpm;
  const answer = school.next(state, played, options, goesBeyond ? { ...aim, goalBpm: beyondBpm } : aim);
  if (answer.action !== 'goal' || !goesBeyond) return { answer, isBack: ladder.isBack };
  const anew = school.begin(options, school.close(answer.state));
  const reason = why('beyond-back', { bpm: aim.goalBpm, beyond: played.bpm });
  return { answer: { state: anew, action: 'lower', tempo: constantTempo(aim.goalBpm), why: reason }, isBack: true };
};

/** A raise waits for enough repetitions; until then the school stays where it was. */
const heldBack = (answer: SchoolAnswer, ladder: Ladder, played: Played, aim: Aim, here: Ladder['here']): SchoolAnswer => {
  if (answer.action !== 'raise') return answer;
  const waits = beforeRaise(played, aim, here);
  return waits ? hold(ladder.school.state, played.bpm, waits.code, { more: waits.more }) : answer;
};

const countedHere = ({ here }: Ladder, { bpm }: Played, isClean: boolean): Ladder['here'] => {
  const before = here.bpm === bpm ? here : { bpm, played: 0, cleanInARow: 0 };
  return { bpm, played: before.played + 1, cleanInARow: isClean ? before.cleanInARow + 1 : 0 };
};

/**
 * The next tempo after a repetition: the guards first, then what is owed, then the relaxed finish or the school, then the guard against
 * endless failing. Everything is clamped here and nowhere else. Pure: the same ladder and repetition give the same decision, so that a
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
  const isClean = played.verdict.outcome === 'clean';
  if (ladder.finishCleans !== null) {
    const { answer, cleans } = finishAfter(ladder.school.state, played, ladder.finishCleans);
    return done({ ...ladder, finishCleans: cleans }, withoutState(answer));
  }
  const { answer: told, isBack } = askSchool(ladder, played, aim);
  if (played.way) {
    // A sweep is meant to break, a burst to be wild: neither counts as failing.
    return done({ ...ladder, school: { ...ladder.school, state: told.state }, isBack }, withoutState(told));
  }
  const here = countedHere(ladder, played, isClean);
  const answer = heldBack(told, ladder, played, aim, here);
  const counted: Ladder = {
    ...ladder,
    school: { ...ladder.school, state: answer.state },
    notCleanInARow: isClean ? 0 : ladder.notCleanInARow + 1,
    failedInARow: isClean ? 0 : ladder.failedInARow + STUCK_BY[played.verdict.outcome],
    clean: [...ladder.clean, isClean],
    here,
    isBack,
  };
  if (aim.relaxedFinish && fallsApart(counted.clean) && answer.action !== 'goal')
    return done({ ...counted, finishCleans: 0 }, withoutState(beginFinish(answer.state, played)));
  if (!isProblem(counted.failedInARow)) return done(counted, withoutState(answer));
  const reason = why('problem', { tries: counted.notCleanInARow });
  return done({ ...counted, failedInARow: 0, notCleanInARow: 0 }, { action: 'problem', tempo: answer.tempo, why: reason });
};

const withoutState = ({ action, tempo, why: reason }: SchoolAnswer): Ruling => ({ action, tempo, why: reason });

/** The ladder on its way to the relaxed finish, because the player asked for it or the time is up. */
export const toFinish = (ladder: Ladder): Ladder => ({ ...ladder, finishCleans: 0 });
