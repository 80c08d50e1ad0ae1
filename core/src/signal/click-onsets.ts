import type { Onset } from '../schema/measures';
import { median } from '../stats/summary';
import { clickKinds, likeliestKind } from './click-kinds';
import { learnClickPath, type ScheduledClick, subtractClicks } from './click-removal';
import { createOnsetDetector, type DetectorOptions, detectOnsets } from './detect-onsets';

/** The longest way from loudspeaker to microphone that is looked for, in seconds. */
const LONGEST_PATH_S = 0.08;
/** Onsets within this of the click's usual delay are that click. */
const SAME_DELAY_S = 0.006;
/** A click's own sound, by which kinds are told apart: from its onset on. */
const CLICK_S = 0.03;
/** Log-odds for an onset where a click is known to sound. */
const CLICK_LOG_ODDS = 4;
/** Every kind of click is heard within so many: a count-in is at least this long. */
const COUNTED = 4;
/** What is left of the clicks is harmless this far below the notes. */
const HARMLESS_DB = 6;
/** And among those that sound alone, this far under it. */
const AMONG_CLICKS_DB = 15;
/** An onset this far under the others' level may be what is left of a click. */
const FAR_SOFTER_DB = 25;

export interface ClickedOnsets {
  onsets: Onset[];
  /** How many leading clicks sounded alone and were learnt from. */
  learntFrom: number;
  /** True where clicks may be among the onsets: none sounded alone, or what is left of them is as strong as a note. */
  clicksRemain: boolean;
}

/**
 * The onsets of a recording in which clicks of known times (seconds in the file) but unknown sound are heard as well.
 * The leading clicks that sound alone, up to the first onset that is not a click, teach how each kind of click sounds; that
 * is subtracted from the whole recording, and what stands at a leading click is dropped. A click is never reported as a
 * note; where that cannot be promised, `clicksRemain` says so.
 *
 * `firstNoteS` is the time of the first expected note, where it is known: earlier clicks sound alone.
 */
export const detectOnsetsBesideClicks = (
  samples: Float32Array,
  sampleRateHz: number,
  clicksS: readonly number[],
  firstNoteS = Number.POSITIVE_INFINITY,
  options: DetectorOptions = {},
): ClickedOnsets => {
  const clicks = [...clicksS].sort((a, b) => a - b);
  const leading = leadingOnsets(samples, sampleRateHz, clicks);
  if (!leading) {
    const onsets = detectOnsets(samples, sampleRateHz, options);
    return { onsets, learntFrom: 0, clicksRemain: notesComeFirst(onsets, clicks) };
  }
  const { delayS, firstOtherS } = leading;
  const aloneUntil = Math.round(Math.min(samples.length, (Math.min(firstOtherS, firstNoteS) - 0.005) * sampleRateHz));
  const delay = Math.round(delayS * sampleRateHz);
  const clickLength = Math.round(CLICK_S * sampleRateHz);
  const frames = clicks.map((timeS) => Math.round(timeS * sampleRateHz));
  const aloneFrames = frames.filter((frame) => frame + delay + clickLength < aloneUntil);
  if (aloneFrames.length === 0) {
    return { onsets: detectOnsets(samples, sampleRateHz, options), learntFrom: 0, clicksRemain: true };
  }
  const kinds = clickKinds(
    samples,
    aloneFrames.map((frame) => frame + delay),
    clickLength,
  );
  // A click that resembles none before it, after so many, has a note on top.
  const mixed = kinds.findIndex((kind, k) => k >= COUNTED && !kinds.slice(0, k).includes(kind));
  const alone = aloneFrames
    .slice(0, mixed < 0 ? undefined : mixed)
    .map((frame, k): ScheduledClick => ({ frame, kind: kinds[k] as string }));
  const endOfAlone = mixed < 0 ? aloneUntil : Math.min(aloneUntil, aloneFrames[mixed] as number);
  const path = learnClickPath(samples, alone, sampleRateHz, endOfAlone);
  const scheduled = frames.flatMap((frame): ScheduledClick[] => {
    const known = alone.find((click) => click.frame === frame);
    const kind = known?.kind ?? likeliestKind(samples, frame, path.templates, delay + clickLength);
    return kind === null ? [] : [{ frame, kind }];
  });
  const cleaned = Float32Array.from(samples);
  subtractClicks(cleaned, 0, scheduled, path);
  const lastAloneS = (alone.at(-1) as ScheduledClick).frame / sampleRateHz;
  const found = aboveResidue(path.residueDb, detectOnsets(cleaned, sampleRateHz, options));
  const leastDb = median(found.map(({ levelDb }) => levelDb)) - AMONG_CLICKS_DB;
  // Among the clicks that sounded alone there may be a first note, early or on top of one; but not a soft one.
  const onsets = found.filter(
    ({ timeS, levelDb }) =>
      timeS > lastAloneS + delayS + CLICK_S || (levelDb >= leastDb && !isClick({ timeS, levelDb }, clicks, delayS)),
  );
  return { onsets, learntFrom: alone.length, clicksRemain: residueMasks(path.residueDb, onsets) };
};

/**
 * Without onsets that are softer than what is left of the clicks, and far softer than the others: nothing tells those from it.
 */
export const aboveResidue = (residueDb: number | null, onsets: readonly Onset[]): Onset[] => {
  if (residueDb === null) return [...onsets];
  const least = Math.min(residueDb, median(onsets.map(({ levelDb }) => levelDb)) - FAR_SOFTER_DB);
  return onsets.filter(({ levelDb }) => levelDb >= least);
};

/** Whether what is left of the clicks is as strong as the notes, so that one could be taken for the other. */
export const residueMasks = (residueDb: number | null, onsets: readonly Onset[]): boolean =>
  residueDb !== null && onsets.length > 0 && residueDb > median(onsets.map((onset) => onset.levelDb)) - HARMLESS_DB;

const isClick = (onset: Onset, clicks: readonly number[], delayS: number): boolean =>
  clicks.some((click) => Math.abs(onset.timeS - click - delayS) <= SAME_DELAY_S);

/**
 * The delay at which the first click is heard, and the first onset that is no click; null where the first click is not heard
 * first. Only as much of the sound is listened to as that needs.
 */
const leadingOnsets = (
  samples: Float32Array,
  sampleRateHz: number,
  clicks: readonly number[],
): { delayS: number; firstOtherS: number } | null => {
  const first = clicks[0];
  if (first === undefined) return null;
  // The ear is made for notes: where a click is known to sound it is listened to more willingly.
  const prior = (timeS: number) =>
    clicks.some((click) => timeS > click - 0.003 && timeS < click + LONGEST_PATH_S) ? CLICK_LOG_ODDS : 0;
  const detector = createOnsetDetector(sampleRateHz, { family: 'drum', prior });
  let delayS: number | null = null;
  const block = Math.round(0.1 * sampleRateHz);
  for (let at = 0; at < samples.length + block; at += block) {
    const found = at < samples.length ? detector.push(samples.subarray(at, at + block)) : detector.flush();
    for (const onset of found) {
      if (delayS === null && onset.timeS >= first - 0.003) {
        if (onset.timeS - first > LONGEST_PATH_S) return null;
        delayS = onset.timeS - first;
      }
      if (delayS !== null && !isClick(onset, clicks, delayS)) return { delayS, firstOtherS: onset.timeS };
    }
    if (delayS === null && at / sampleRateHz > first + LONGEST_PATH_S + 0.2) return null;
  }
  return delayS === null ? null : { delayS, firstOtherS: Number.POSITIVE_INFINITY };
};

/** Whether a note sounds before any click: then nothing tells whether the clicks are heard. */
const notesComeFirst = (onsets: readonly Onset[], clicks: readonly number[]): boolean =>
  clicks[0] !== undefined && onsets[0] !== undefined && onsets[0].timeS < clicks[0];
