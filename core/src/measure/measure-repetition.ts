import type { Alignment } from '../align/align';
import type { Measures, NoteResult, Onset } from '../schema/measures';
import type { Hand } from '../schema/notation';
import type { Tolerance } from '../schema/tolerance';
import { type Estimate, meanEstimate, sdEstimate, withoutNoise } from '../stats/interval-estimate';
import { mean, median, robustSd, sampleSd, theilSenSlope } from '../stats/summary';
import type { ExpectedNote } from '../time/repetition-plan';
import { toleranceWindowMs } from '../verdict/tolerance-window';
import { articulationPct, chordSpreadMs, rightHandMs } from './articulation';
import { npvi } from './npvi';

/** An interval ratio above this is a hesitation; above {@link STOP_RATIO}, a stop. */
const HESITATION_RATIO = 1.5;
const STOP_RATIO = 2.5;

/** What was played for each expected note. `latencyS` is taken off every deviation. */
export const noteResults = (
  notes: readonly ExpectedNote[],
  onsets: readonly Onset[],
  alignment: Alignment,
  latencyS: number,
): NoteResult[] =>
  notes.map((note, k) => {
    const which = alignment.onsetOf[k];
    const onset = which === null || which === undefined ? null : (onsets[which] as Onset);
    return {
      index: note.index,
      expectedS: note.timeS,
      onsetS: onset?.timeS ?? null,
      deviationMs: onset ? (onset.timeS - latencyS - note.timeS) * 1000 : null,
      levelDb: onset?.levelDb ?? null,
      ...(onset?.pitch === undefined ? {} : { pitch: onset.pitch }),
      ...(onset?.offS === undefined ? {} : { offS: onset.offS }),
      ...(onset?.members === undefined ? {} : { members: onset.members }),
    };
  });

interface Step {
  ratio: number;
  expectedS: number;
  differenceMs: number;
  fromIndex: number;
}

/** The intervals between successive notes that sound; a missed note joins its two intervals into one. */
const stepsOf = (results: readonly NoteResult[]): Step[] => {
  const sounding = results.filter((result) => result.onsetS !== null);
  return sounding.slice(1).map((result, k) => {
    const before = sounding[k] as NoteResult;
    const playedS = (result.onsetS as number) - (before.onsetS as number);
    const expectedS = result.expectedS - before.expectedS;
    return { ratio: playedS / expectedS, expectedS, differenceMs: (playedS - expectedS) * 1000, fromIndex: before.index };
  });
};

/** Mean length of a beat over a repetition, in seconds. */
const meanBeatS = (notes: readonly ExpectedNote[]): number => {
  const first = notes[0];
  const last = notes.at(-1);
  return first && last && last.beat > first.beat ? (last.timeS - first.timeS) / (last.beat - first.beat) : Number.NaN;
};

const finite = (value: number): number | null => (Number.isFinite(value) ? value : null);

/** A standard deviation with its interval, the detector's noise taken off; null where there are too few values. */
const sdFigure = (sd: number, count: number, noise: number): Estimate | null =>
  Number.isFinite(sd) ? withoutNoise(sdEstimate(sd, count), noise) : null;

/** How many times the playing fell silent: runs of this many missed notes or more. */
const SILENT_NOTES = 3;
const silences = (results: readonly NoteResult[]): number => {
  let found = 0;
  let missedInARow = 0;
  for (const result of results) {
    missedInARow = result.onsetS === null ? missedInARow + 1 : 0;
    if (missedInARow === SILENT_NOTES) found += 1;
  }
  return found;
};

/**
 * The measures of one repetition as docs/measures.md defines them, from its paired notes. `tolerance` gives the window
 * of the accuracy; the window lies around the repetition's own placement, or around the click where
 * `tolerance.placementCounts` says so.
 */
export const measureRepetition = (options: {
  notes: readonly ExpectedNote[];
  results: readonly NoteResult[];
  extra: number;
  tolerance: Tolerance;
  /** The detector's own timing noise, ms; taken off in quadrature. */
  noiseSdMs?: number;
  /** The hand of each pitch of each note, where hands are told apart. */
  hands?: readonly (readonly Hand[] | undefined)[];
}): Measures => {
  const { notes, results, extra, tolerance, noiseSdMs = 0, hands = [] } = options;
  const played = results.filter((result) => result.deviationMs !== null);
  const deviations = played.map((result) => result.deviationMs as number);
  const placement = median(deviations);
  const spread = sampleSd(deviations);
  const steps = stepsOf(results);
  const ratios = steps.map((step) => step.ratio);
  // Against notated time, so that it is a share of the local tempo whatever the tempo map.
  const driftMsPerS = theilSenSlope(
    played.map((result) => result.expectedS),
    deviations,
  );
  const centre = tolerance.placementCounts ? 0 : placement;
  const within = played.filter(
    (result) =>
      !(tolerance.pitchCounts && result.wrongPitch) &&
      Math.abs((result.deviationMs as number) - centre) <=
        toleranceWindowMs(tolerance, (notes[result.index] as ExpectedNote).intervalS * 1000),
  );
  const levels = (accented: boolean) =>
    played
      .filter((result) => (notes[result.index] as ExpectedNote).accent === accented)
      .map((result) => result.levelDb as number);
  // A step has the noise of both its ends.
  const stepNoiseMs = Math.SQRT2 * noiseSdMs;
  const unevennessPct = sampleSd(ratios) * 100;
  const unevennessMs = sampleSd(steps.map((step) => step.differenceMs));
  return {
    placementMs: deviations.length ? { ...meanEstimate(mean(deviations), spread, deviations.length), value: placement } : null,
    spreadMs: sdFigure(spread, deviations.length, noiseSdMs),
    robustSpreadMs: deviations.length > 1 ? finite(robustSd(deviations)) : null,
    driftMsPerBeat: finite(driftMsPerS * meanBeatS(notes)),
    driftPct: finite(driftMsPerS / 10),
    unevennessPct: sdFigure(unevennessPct, ratios.length, (stepNoiseMs / 10) * mean(steps.map((step) => 1 / step.expectedS))),
    unevennessMs: sdFigure(unevennessMs, ratios.length, stepNoiseMs),
    npvi: npvi(ratios),
    accuracyPct: (within.length / notes.length) * 100,
    levelSpreadDb: finite(sampleSd(levels(false))),
    accentContrastDb: finite(mean(levels(true)) - mean(levels(false))),
    missed: results.length - played.length,
    extra,
    hesitations: ratios.filter((ratio) => ratio > HESITATION_RATIO && ratio <= STOP_RATIO).length,
    stops: ratios.filter((ratio) => ratio > STOP_RATIO).length + silences(results),
    wrongNotes: results.filter((result) => result.wrongPitch).length,
    articulationPct: articulationPct(results),
    chordSpreadMs: chordSpreadMs(results),
    rightHandMs: rightHandMs(results, hands),
    noiseMs: noiseSdMs,
  };
};

/** The step that is farthest from its notated length, for the one-line finding; null where there are no steps. */
export const widestStep = (results: readonly NoteResult[]): { fromIndex: number; differenceMs: number } | null =>
  stepsOf(results).reduce<Step | null>(
    (worst, step) => (!worst || Math.abs(step.differenceMs) > Math.abs(worst.differenceMs) ? step : worst),
    null,
  );
