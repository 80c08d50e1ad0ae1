import type { Alignment } from '../align/align';
import { HEARD_KEYS, type Measures, type NoteResult, type Onset } from '../schema/measures';
import type { Hand } from '../schema/notation';
import type { Tolerance } from '../schema/tolerance';
import { differenceSdEstimate, medianEstimate, sdEstimate, sdFigure, studentTQuantile } from '../stats/interval-estimate';
import { mean, median, robustSd, rootMeanSquare, sampleSd, theilSenSlope, weightedMedian } from '../stats/summary';
import type { ExpectedNote } from '../time/repetition-plan';
import { toleranceWindowMs } from '../verdict/tolerance-window';
import { articulationPct, chordSpreadMs, rightHandMs } from './articulation';
import { ONSET_NOISE_UNCERTAINTY, onsetNoiseMs, unsureNotes } from './certainty';
import { findJump, withoutJump } from './find-jump';
import { npvi } from './npvi';
import { spreadShareOf, unevennessShareOf } from './own-windows';

/** An interval ratio above this is a hesitation; above {@link STOP_RATIO}, a stop. */
const HESITATION_RATIO = 1.5;
const STOP_RATIO = 2.5;

const BROUGHT = ['pitch', 'offS', 'members', ...HEARD_KEYS] as const;
type Brought = Partial<Pick<Onset, (typeof BROUGHT)[number]>>;

/** What an onset brought besides a time and a level; a note's result keeps it. */
export const broughtBy = (onset: Brought): Brought => {
  const kept: Brought = {};
  for (const key of BROUGHT) if (onset[key] !== undefined) Object.assign(kept, { [key]: onset[key] });
  return kept;
};

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
      ...(onset ? broughtBy(onset) : {}),
    };
  });

interface Step {
  ratio: number;
  expectedS: number;
  differenceMs: number;
  fromIndex: number;
  toIndex: number;
}

/** The intervals between successive notes that sound; a missed note joins its two intervals into one. */
const stepsOf = (results: readonly NoteResult[]): Step[] => {
  const sounding = results.filter((result) => result.onsetS !== null);
  return sounding.slice(1).map((result, k) => {
    const before = sounding[k] as NoteResult;
    const playedS = (result.onsetS as number) - (before.onsetS as number);
    const expectedS = result.expectedS - before.expectedS;
    return {
      ratio: playedS / expectedS,
      expectedS,
      differenceMs: (playedS - expectedS) * 1000,
      fromIndex: before.index,
      toIndex: result.index,
    };
  });
};

/** Mean length of a beat over a repetition, in seconds. */
const meanBeatS = (notes: readonly ExpectedNote[]): number => {
  const first = notes[0];
  const last = notes.at(-1);
  return first && last && last.beat > first.beat ? (last.timeS - first.timeS) / (last.beat - first.beat) : Number.NaN;
};

const finite = (value: number): number | null => (Number.isFinite(value) ? value : null);

/** Theil–Sen's slope is a little less sure than the least squares' whose error is known: its efficiency is 0.91 on normal noise. */
const SLOPE_WIDENING = 1.05;

/**
 * What is left of the deviations (ms) without their trend, and the 95 % interval of the trend (ms per s): t · s/√Sxx, widened for
 * the slope's kind. Null below three notes.
 */
const aboutTrend = (timesS: readonly number[], deviationsMs: readonly number[], slopeMsPerS: number) => {
  const count = timesS.length;
  if (count < 3 || !Number.isFinite(slopeMsPerS)) return null;
  const centreS = mean(timesS);
  const rest = deviationsMs.map((deviation, k) => deviation - slopeMsPerS * ((timesS[k] as number) - centreS));
  // Two figures are taken from the notes: where they lie and how they drift.
  const sd = sampleSd(rest) * Math.sqrt((count - 1) / (count - 2));
  const run = Math.sqrt(timesS.reduce((sum, timeS) => sum + (timeS - centreS) ** 2, 0));
  const half = (SLOPE_WIDENING * studentTQuantile(0.975, count - 2) * sd) / run;
  return { rest, sd, low: slopeMsPerS - half, high: slopeMsPerS + half };
};

/** So many missed notes in a row are a silence, however short they are. */
export const SILENT_NOTES = 3;

/**
 * How many times the playing fell silent: runs of three missed notes or more, and gaps between two notes of more than two and a half
 * intervals and a beat. After a stop the notes lie on the grid again, only later, so that the gap is what is left of it.
 */
const silences = (notes: readonly ExpectedNote[], results: readonly NoteResult[]): number => {
  const beatS = meanBeatS(notes);
  let found = 0;
  let before: NoteResult | null = null;
  let missed = 0;
  for (const result of results) {
    if (result.onsetS === null) {
      missed += 1;
      if (missed === SILENT_NOTES) found += 1;
      continue;
    }
    const gapS = before ? result.onsetS - (before.onsetS as number) : 0;
    const interval = before ? (notes[before.index]?.intervalS ?? gapS) : gapS;
    if (missed > 0 && missed < SILENT_NOTES && gapS > STOP_RATIO * interval && gapS > beatS) found += 1;
    before = result;
    missed = 0;
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
  /** The input's own timing noise, ms, taken off in quadrature; where the ear tells its own for each note, that counts. */
  noiseSdMs?: number;
  /** The hand of each pitch of each note, where hands are told apart. */
  hands?: readonly (readonly Hand[] | undefined)[];
}): Measures => {
  const { notes, results, extra, tolerance, hands = [] } = options;
  const ownNoiseMs = onsetNoiseMs(results);
  const noiseSdMs = ownNoiseMs ?? options.noiseSdMs ?? 0;
  const doubt = ownNoiseMs === null ? 0 : ONSET_NOISE_UNCERTAINTY;
  const windowMs = ({ index }: Pick<NoteResult, 'index'>) => {
    const { intervalS, unsteadinessMs } = notes[index] as ExpectedNote;
    return toleranceWindowMs(tolerance, intervalS * 1000, unsteadinessMs);
  };
  const unsure = unsureNotes(results, windowMs);
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
  const isWithin = (result: NoteResult, deviationMs: number, centreMs: number) =>
    !(tolerance.pitchCounts && result.wrongPitch) && Math.abs(deviationMs - centreMs) <= windowMs(result);
  const accuracyPct = (values: readonly number[], centreMs: number) =>
    (100 * played.filter((result, k) => isWithin(result, values[k] as number, centreMs)).length) / notes.length;
  const trend = aboutTrend(
    played.map((result) => result.expectedS),
    deviations,
    driftMsPerS,
  );
  const levels = (accented: boolean) =>
    played
      .filter((result) => (notes[result.index] as ExpectedNote).accent === accented)
      .map((result) => result.levelDb as number);
  // A step has the noise of both its ends.
  const stepNoiseMs = Math.SQRT2 * noiseSdMs;
  const unevennessPct = sampleSd(ratios) * 100;
  const unevennessMs = sampleSd(steps.map((step) => step.differenceMs));
  const windows = played.map(windowMs);
  const windowed = (values: readonly number[]) => values.map((value, k) => ({ value, window: windows[k] as number }));
  // Where the notes are judged about: one that may lie farther off says less about it.
  const centreOf = (values: readonly number[]) =>
    tolerance.placementCounts
      ? 0
      : weightedMedian(
          values,
          windows.map((window) => 1 / window),
        );
  const jump = trend && findJump(deviations, (deviations.length - 2) * trend.sd ** 2);
  const level = jump && withoutJump(deviations, jump);
  return {
    placementMs: deviations.length ? medianEstimate(placement, spread, deviations.length) : null,
    spreadMs: sdFigure(sdEstimate(spread, deviations.length), noiseSdMs, doubt),
    robustSpreadMs: deviations.length > 1 ? finite(robustSd(deviations)) : null,
    driftMsPerBeat: finite(driftMsPerS * meanBeatS(notes)),
    driftPct: finite(driftMsPerS / 10),
    driftRangePct: trend && { low: trend.low / 10, high: trend.high / 10 },
    steadySpreadMs: trend && sdFigure(sdEstimate(trend.sd, deviations.length - 1), noiseSdMs, doubt),
    steadySpreadShare: trend && spreadShareOf(windowed(trend.rest), noiseSdMs, doubt, 2),
    steadyAccuracyPct: trend && accuracyPct(trend.rest, centreOf(trend.rest)),
    ...(jump && level
      ? {
          jump: {
            note: (played[jump.from] as NoteResult).index,
            byMs: jump.byMs,
            spreadShare: spreadShareOf(windowed(level), noiseSdMs, doubt, 2)?.value ?? 0,
            accuracyPct: accuracyPct(level, centreOf(level)),
          },
        }
      : {}),
    unevennessPct: sdFigure(
      differenceSdEstimate(unevennessPct, ratios.length),
      (stepNoiseMs / 10) * rootMeanSquare(steps.map((step) => 1 / step.expectedS)),
      doubt,
    ),
    unevennessMs: sdFigure(differenceSdEstimate(unevennessMs, ratios.length), stepNoiseMs, doubt),
    npvi: npvi(ratios),
    spreadShare: spreadShareOf(windowed(deviations), noiseSdMs, doubt),
    unevennessShare: unevennessShareOf(
      steps.map(({ differenceMs, expectedS, fromIndex, toIndex }) => ({
        differenceMs,
        expectedMs: 1000 * expectedS,
        windowsMs: [windowMs({ index: fromIndex }), windowMs({ index: toIndex })],
      })),
      noiseSdMs,
      doubt,
    ),
    centreMs: finite(centreOf(deviations)),
    accuracyPct: accuracyPct(deviations, centreOf(deviations)),
    levelSpreadDb: finite(sampleSd(levels(false))),
    accentContrastDb: finite(mean(levels(true)) - mean(levels(false))),
    missed: results.length - played.length,
    extra,
    hesitations: ratios.filter((ratio) => ratio > HESITATION_RATIO && ratio <= STOP_RATIO).length,
    stops: ratios.filter((ratio) => ratio > STOP_RATIO).length + silences(notes, results),
    wrongNotes: results.filter((result) => result.wrongPitch).length,
    articulationPct: articulationPct(results),
    chordSpreadMs: chordSpreadMs(results),
    rightHandMs: rightHandMs(results, hands),
    noiseMs: noiseSdMs,
    ...(unsure === null ? {} : { unsure }),
    doubled: results.filter(({ doubleAttackMs }) => doubleAttackMs !== undefined).length,
  };
};

/** A step that undoes at least this much of the one before it is its return: one late note makes its own step long and the next one short. */
export const RETURN_SHARE = 0.5;

/**
 * The step that is farthest from its notated length; where one note makes two steps wrong, the one that leads to it. Null where there are
 * no steps.
 */
export const widestStep = (results: readonly NoteResult[]): { fromIndex: number; differenceMs: number } | null => {
  const steps = stepsOf(results);
  const sizes = steps.map(({ differenceMs }) => Math.abs(differenceMs));
  const widest = sizes.indexOf(Math.max(...sizes));
  const [before, step] = [steps[widest - 1], steps[widest]];
  const isReturn =
    before &&
    step &&
    before.differenceMs * step.differenceMs < 0 &&
    (sizes[widest - 1] ?? 0) >= RETURN_SHARE * (sizes[widest] ?? 0);
  return (isReturn ? before : step) ?? null;
};
