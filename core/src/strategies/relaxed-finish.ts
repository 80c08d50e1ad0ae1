import { makeReason } from '../schema/reason';
import { lower } from './answers';
import type { Answer, RepetitionOutcome } from './strategy';

/** How far down the loose end of a take lies (common practice, no source: 10 to 15 beats a minute). */
export const FINISH_DROP_BPM = 12;
const FURTHER_DROP_BPM = 8;
/** So many clean and loose ones end it. */
const CLEANS = 3;

/** It begins to fall apart where so few of the last few were clean. */
const [LOOK_BACK, AT_MOST_CLEAN] = [6, 2];
/** Not before something was played. */
const MIN_PLAYED = 10;

/** Whether it begins to fall apart, by what was clean of a take so far. */
export const fallsApart = (clean: readonly boolean[]): boolean =>
  clean.length >= MIN_PLAYED && clean.includes(true) && clean.slice(-LOOK_BACK).filter((one) => one).length <= AT_MOST_CLEAN;

/** The first step of a relaxed finish. */
export const beginFinish = <State>(state: State, { bpm }: Pick<RepetitionOutcome, 'bpm'>): Answer<State> =>
  lower(state, bpm - FINISH_DROP_BPM, 'finish-begin');

/** What follows from a repetition of the relaxed finish, the strategy being asked no more: loose a few times, then the end. */
export const finishAfter = <State>(
  state: State,
  { bpm, tempo, verdict }: RepetitionOutcome,
  cleansBefore: number,
): { answer: Answer<State>; cleans: number } => {
  if (verdict.outcome !== 'clean') return { answer: lower(state, bpm - FURTHER_DROP_BPM, 'finish-looser'), cleans: 0 };
  const cleans = cleansBefore + 1;
  const isDone = cleans >= CLEANS;
  return {
    answer: {
      state,
      action: isDone ? 'done' : 'hold',
      tempo,
      why: isDone ? makeReason('finish-done', { bpm, times: cleans }) : makeReason('finish-more', { more: CLEANS - cleans }),
    },
    cleans,
  };
};
