/** From sound to a verdict: onsets, pairing, measures, verdicts, and what is found across repetitions. At `@isochron/core/analysis`. */

// Reasons are made by codes that the dictionaries name.
import type {} from '../words/describe-reason';

export { acrossRepetitions, byGrid, type GridRepetitions, ofGrid } from '../across/across-repetitions';
export { awkwardInArcs, awkwardReason } from '../across/arcs';
export { type AttackHabit, attackHabitReason, attackHabits, doubleAttackReason } from '../across/attack-habits';
export { distractionCost } from '../across/distraction';
export { findingOf } from '../across/finding';
export { labelDifferences } from '../across/label-differences';
export { deviationsFromOthersMs, type Position } from '../across/position-profile';
export { usableRepetitions } from '../across/usable';
export { weakLinks } from '../across/weak-links';
export { MAX_OFFSET_S, type OffsetGuess, SETTLED_OFFSET_S } from '../align/align';
export type { BarsBehind } from '../listen/bars-behind';
export { type BeatsInRecording, beatsInRecording } from '../listen/beats-in-recording';
export type { Expectation } from '../listen/expectation';
export { listenToRecording } from '../listen/listen-to-recording';
export { createListener, type HeardRepetition, type Listener } from '../listen/listener';
export { reanalyseTake } from '../listen/reanalyse-take';
export { analyseRepetition } from '../measure/analyse-repetition';
export { articulationPct } from '../measure/articulation';
export { type AttackFault, attackFaults, filterDoubleAttacks } from '../measure/attack-faults';
export { isCertain } from '../measure/certainty';
export { type OtherLevel, otherLevelFor } from '../measure/dynamics';
export { measureImport } from '../measure/measure-import';
export { evenGridNotes, type MeasuredRecording, measureRecording } from '../measure/measure-recording';
export { measureRepetition } from '../measure/measure-repetition';
export { editRepetition, onsetsOfRepetition, undoEdit } from '../measure/remeasure';
export { CALIBRATION, type Calibration, calibrate, calibrationBurst } from '../signal/calibrate';
export { detectOnsetsBesideClicks } from '../signal/click-onsets';
export { learnClickPath, subtractClicks } from '../signal/click-removal';
export { createDeliveryWatch } from '../signal/delivery-watch';
export { createOnsetDetector, type DetectorOptions, detectOnsets } from '../signal/detect-onsets';
export { FAMILIES, type Family } from '../signal/families';
export { gridPrior } from '../signal/grid-prior';
export { mixInto, type PlacedSound } from '../signal/mix';
export { type Layer, type Perceptron, runPerceptron } from '../signal/perceptron';
export { HEARD_PROFILES, type Profile, profileOf } from '../signal/profiles';
export { attackFeatures } from '../signal/refine-onset';
export { spectrumOf } from '../signal/spectrum';
export type { Estimate } from '../stats/interval-estimate';
export { type Chance, chance } from '../stats/random';
export { mean, median, sampleSd } from '../stats/summary';
export { judge } from '../verdict/judge';
export { judgedOf, toleranceUsageOf } from '../verdict/judged';
export { toleranceFor } from '../verdict/tolerance-for';
export { toleranceWindowMs } from '../verdict/tolerance-window';
