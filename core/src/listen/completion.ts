import { MAX_OFFSET_S, SETTLED_OFFSET_S } from '../align/align';
import { offsetToTry } from '../measure/analyse-repetition';
import { brokenOffAt, firstUnplayed, SILENT_BEATS, SILENT_S } from '../measure/broken-off';
import { SILENT_NOTES } from '../measure/measure-repetition';
import type { Onset } from '../schema/measures';
import { isRising } from '../time/drill-tempo';
import type { ExpectedNote, RepetitionPlan } from '../time/repetition-plan';
import { openTempo } from '../time/tempo-map';
import type { Expectation } from './expectation';

/** A missing last note is waited for this long beyond what the latency may still add. */
const LAST_NOTE_REACH_S = 0.1;
/** After the last note's gridline, so that a doubled note is still seen. */
const SETTLE_S = 0.06;
/** Where the last note is held, one that comes a step later is still heard: then one note was played too many. */
const LANDING_S = 0.2;

const settleS = ({ notes, endS }: Pick<RepetitionPlan, 'notes' | 'endS'>): number => {
  const last = notes.at(-1);
  if (!last || endS - last.timeS < 2 * last.intervalS) return SETTLE_S;
  return Math.max(SETTLE_S, Math.min(LANDING_S, 1.15 * last.intervalS));
};

/** Silence after notes at a tempo of the player's own: then what was played is over. */
const OWN_TEMPO_SILENCE_S = 0.9;
/** It may be so many times as slow as asked. */
const SLOWER = 2.2;

/** Whether notes at a tempo of one's own are over: all were heard, or nothing followed for a while. */
const isOwnTempoComplete = (notes: readonly ExpectedNote[], onsets: readonly Onset[], nowS: number): boolean => {
  const [first] = notes;
  const last = notes.at(-1);
  if (!first || !last) return true;
  const heardS = onsets.filter(({ timeS }) => timeS > first.timeS - 1).map(({ timeS }) => timeS);
  const latest = Math.max(first.timeS, ...heardS);
  // By how many were heard, the note that sounds now: it may be a long one, and played slowly.
  const sounding = notes.slice(Math.max(0, heardS.length - 2), heardS.length + 1);
  const longestS = Math.max(...sounding.map(({ intervalS }) => intervalS), 0);
  const quietS = Math.max(OWN_TEMPO_SILENCE_S, SLOWER * longestS);
  if (heardS.length === 0) return nowS > last.timeS + quietS;
  return nowS - latest > (heardS.length >= notes.length ? OWN_TEMPO_SILENCE_S / 2 : quietS);
};

/** A sweep is over where nothing follows for as long as ends any repetition: who stops has found the break. */
const isBrokenOff = ({ tempo, downbeatS, notes }: RepetitionPlan, onsets: readonly Onset[], nowS: number): boolean => {
  const [first] = notes;
  const heardS = onsets.filter(({ timeS }) => first && timeS > first.timeS - first.intervalS / 2).map(({ timeS }) => timeS);
  const latestS = heardS.at(-1);
  if (latestS === undefined || heardS.length < 2) return false;
  const map = openTempo(tempo);
  const beatS = 60 / map.tempoAt(Math.max(0, map.beatOf(latestS - downbeatS)));
  const longestS = Math.max(...notes.map(({ intervalS }) => intervalS));
  return nowS - latestS > Math.max(SILENT_S, SILENT_BEATS * beatS, 2 * longestS);
};

/** Whether silence on the way ends a repetition: not where the tempo is the player's own, or something else than notes is listened for. */
export const canBreakOff = ({ judging, listen, tempo }: Expectation['drill']): boolean =>
  !judging.ownTempo && !listen && !isRising(tempo);

/** It is still where nothing was loud for so long, in seconds; at the end of a repetition less must do (our choice). */
const STILL_S = 1;
const STILL_AT_END_S = 0.5;
/** So many notes left out at the end are no slip (as for a silence on the way). */
const LEFT_OUT = SILENT_NOTES;

/** What has been heard of a repetition. Times are seconds on the audio clock. */
export interface HeardSoFar {
  expectation: Expectation;
  onsets: readonly Onset[];
  /** When the sound was last about as loud as notes; minus infinity where notes come as data. */
  soundedS: number;
  /** How late everything comes, by what is known or by these notes, where that is certain. */
  offsetS?: () => number | null;
}

/** Whether nothing of a repetition was played until the moment at which it is counted on. */
export const isNotBegun = ({ expectation, onsets, soundedS }: HeardSoFar, nowS: number): boolean => {
  const { waitUntilS, plan } = expectation;
  const [first] = plan.notes;
  if (waitUntilS === undefined || nowS < waitUntilS || !first) return false;
  // What is loud without a beginning may be notes that were not heard to begin.
  const fromS = first.timeS + Math.min(0, offsetToTry(expectation).nearS) - first.intervalS / 2;
  return nowS - soundedS > STILL_AT_END_S && !onsets.some(({ timeS }) => timeS > fromS);
};

/** Whether a repetition is over, and the first note that was not played any more where the playing broke off. */
export interface Completion {
  isOver: boolean;
  brokenOffAt: number | null;
}

const over = (isOver: boolean): Completion => ({ isOver, brokenOffAt: null });
const OVER = over(true);

/**
 * Whether enough was heard to judge a repetition: its last note is certain, or the playing broke off.
 *
 * @param nowS seconds on the audio clock.
 */
export const completionOf = ({ expectation, onsets, soundedS, offsetS }: HeardSoFar, nowS: number): Completion => {
  const last = expectation.plan.notes.at(-1);
  if (!last) return OVER;
  const { nearS, reachS, farS } = offsetToTry(expectation);
  if (isRising(expectation.drill.tempo) && isBrokenOff(expectation.plan, onsets, nowS)) return OVER;
  if (expectation.drill.judging.ownTempo) return over(isOwnTempoComplete(expectation.plan.notes, onsets, nowS));
  // Nothing is over while it sounds on: notes that ring into each other may not be heard to begin.
  const quietS = nowS - soundedS;
  const isKnown = reachS <= SETTLED_OFFSET_S;
  const mayBreak = canBreakOff(expectation.drill);
  /** How late everything comes, where a silence may be a break: that is asked for only then. */
  const lateS = () => (isKnown ? nearS : (offsetS?.() ?? null));
  const latestS = () => onsets.reduce((latest, { timeS }) => Math.max(latest, timeS), Number.NEGATIVE_INFINITY);
  // Sorted where it is asked for: this is looked at with every block.
  const heardS = () => onsets.map(({ timeS }) => timeS).sort((a, b) => a - b);
  const { notes } = expectation.plan;
  if (mayBreak && quietS >= STILL_S && nowS - latestS() >= SILENT_S) {
    const offset = lateS();
    const at = offset === null ? null : brokenOffAt(notes, heardS(), nowS, offset);
    if (at !== null) return { isOver: true, brokenOffAt: at };
  }
  const dueS = last.timeS + nearS;
  // A repetition whose first note is not at its place may be a shifted one: its last note comes later, or came earlier.
  const first = expectation.plan.notes[0] as ExpectedNote;
  const begins = onsets.some((onset) => Math.abs(onset.timeS - first.timeS - nearS) < first.intervalS / 2);
  if (!begins) return over(nowS >= dueS + Math.max(reachS, Math.min(farS ?? reachS, MAX_OFFSET_S)) + LAST_NOTE_REACH_S);
  // While the latency is unknown, what looks like the last note may be the one before it; so may what lies far from its place.
  const isLast = (onset: Onset) =>
    reachS <= SETTLED_OFFSET_S && Math.abs(onset.timeS - dueS) < Math.min(last.intervalS / 2, SETTLED_OFFSET_S);
  const missingS = Math.max(reachS, Math.min(last.intervalS / 2, MAX_OFFSET_S)) + LAST_NOTE_REACH_S;
  if (nowS < dueS + (onsets.some(isLast) ? settleS(expectation.plan) : missingS)) return over(false);
  // Who breaks off shortly before the end has no time to be silent for long. Where notes came before the first one, all may come early: the
  // delay of the sound has changed.
  const fromS = first.timeS + nearS;
  const isEarly = onsets.some(({ timeS }) => timeS < fromS - first.intervalS / 2 && timeS > fromS - (farS ?? MAX_OFFSET_S));
  const offset = mayBreak && !isEarly && quietS >= STILL_AT_END_S ? lateS() : null;
  const at = offset === null ? null : firstUnplayed(notes, heardS(), offset);
  return { isOver: true, brokenOffAt: at !== null && notes.length - at >= LEFT_OUT ? at : null };
};
