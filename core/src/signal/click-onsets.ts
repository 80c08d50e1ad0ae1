import type { Onset } from '../schema/measures';
import { learnClickPath, type ScheduledClick, subtractClicks } from './click-removal';
import { detectOnsets } from './detect-onsets';

/** The longest way from loudspeaker to microphone that is looked for, in seconds. */
const LONGEST_PATH_S = 0.08;
/** Onsets within this of the click's usual delay are that click. */
const SAME_DELAY_S = 0.006;

export interface ClickedOnsets {
  onsets: Onset[];
  /** How many leading clicks sounded alone and were learnt from. */
  learntFrom: number;
  /** True where the recording has no clicks that sound alone, so that clicks may be among the onsets. */
  clicksRemain: boolean;
}

/**
 * The onsets of a recording in which a click of known times (seconds in the file) but unknown sound is heard as well.
 * The leading clicks that sound alone, up to the first onset that is not a click, teach how a click sounds; that is
 * subtracted from the whole recording, and what stands at a leading click is dropped. A click is never reported as a
 * note; where none sounds alone, `clicksRemain` says that this cannot be promised.
 *
 * `firstNoteS` is the time of the first expected note, where it is known: earlier clicks sound alone.
 */
export const detectOnsetsBesideClicks = (
  samples: Float32Array,
  sampleRateHz: number,
  clicksS: readonly number[],
  firstNoteS = Number.POSITIVE_INFINITY,
): ClickedOnsets => {
  const raw = detectOnsets(samples, sampleRateHz);
  const clicks = [...clicksS].sort((a, b) => a - b);
  const delayS = leadingDelay(raw, clicks);
  if (delayS === null) return { onsets: raw, learntFrom: 0, clicksRemain: notesComeFirst(raw, clicks) };
  const isClick = (onset: Onset) => clicks.some((click) => Math.abs(onset.timeS - click - delayS) <= SAME_DELAY_S);
  const firstOther = raw.find((onset) => !isClick(onset))?.timeS ?? Number.POSITIVE_INFINITY;
  const aloneUntilS = Math.min(firstOther, firstNoteS) - 0.005;
  const scheduled: ScheduledClick[] = clicks.map((timeS) => ({ frame: Math.round(timeS * sampleRateHz), kind: 'click' }));
  const aloneUntil = Math.round(Math.min(samples.length, aloneUntilS * sampleRateHz));
  const alone = scheduled.filter((click) => click.frame + Math.round((delayS + 0.03) * sampleRateHz) < aloneUntil);
  if (alone.length === 0) return { onsets: raw, learntFrom: 0, clicksRemain: true };
  const path = learnClickPath(samples, alone, sampleRateHz, aloneUntil);
  const cleaned = Float32Array.from(samples);
  subtractClicks(cleaned, 0, scheduled, path);
  const lastAloneS = (alone.at(-1) as ScheduledClick).frame / sampleRateHz;
  const onsets = detectOnsets(cleaned, sampleRateHz).filter(
    (onset) => onset.timeS > lastAloneS + delayS + 0.03 || !isClick(onset),
  );
  return { onsets, learntFrom: alone.length, clicksRemain: false };
};

/** The delay of the first click's onset, if there is one; null where the click is not heard first. */
const leadingDelay = (onsets: readonly Onset[], clicks: readonly number[]): number | null => {
  const first = clicks[0];
  if (first === undefined) return null;
  const heard = onsets.find((onset) => onset.timeS >= first - 0.003);
  if (!heard || heard.timeS - first > LONGEST_PATH_S) return null;
  return heard.timeS - first;
};

/** Whether a note sounds before any click: then nothing tells whether the clicks are heard. */
const notesComeFirst = (onsets: readonly Onset[], clicks: readonly number[]): boolean =>
  clicks[0] !== undefined && onsets[0] !== undefined && onsets[0].timeS < clicks[0];
