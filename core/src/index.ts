/** What other packages use of core, by folder. Listening alone is at `@isochron/core/signal`. */
export { acrossRepetitions, byGrid, type GridRepetitions, ofGrid } from './across/across-repetitions';
export { findingOf } from './across/finding';
export { labelDifferences } from './across/label-differences';
export { centredDeviationsMs, type Position } from './across/position-profile';
export { usableRepetitions } from './across/usable';
export { weakLinks } from './across/weak-links';
export { MAX_OFFSET_S, type OffsetGuess, SETTLED_OFFSET_S } from './align/align';
export { ENGINE_VERSION } from './engine-version';
export { dbVelocity, readMidiMessage, velocityDb } from './formats/midi-message';
export { onsetsCsv } from './formats/onsets-csv';
export { readSmf, writeSmf } from './formats/smf';
export { type SoundSource, soundInMemory } from './formats/sound-source';
export { decodeWav, openWav, readWav } from './formats/wav';
export { type ByteSource, readWavHead } from './formats/wav-head';
export { shortOf, wavHead, writeWav } from './formats/wav-write';
export { beginLadder, decide } from './ladder/decide';
export type { Played } from './ladder/school';
export { beginSchool, optionsOf, resumeSchool, SCHOOLS, schoolOf, standingOf } from './ladder/schools';
export { listenToRecording } from './listen/listen-to-recording';
export { createListener, type Expectation, type Heard, type Listener } from './listen/listener';
export { reanalyseTake } from './listen/reanalyse-take';
export { analyseRepetition } from './measure/analyse-repetition';
export { articulationPct } from './measure/articulation';
export { measureImport } from './measure/measure-import';
export { evenGridNotes, type MeasuredRecording, measureRecording } from './measure/measure-recording';
export { measureRepetition } from './measure/measure-repetition';
export { editRepetition, onsetsOfRepetition, undoEdit } from './measure/remeasure';
export { afterTake, changeCourse, courseOf, drillOf, firstDrill, newCourse } from './plan/course-of';
export { nextStart, type Outcome as StartOutcome } from './plan/next-start';
export { planToday } from './plan/plan-today';
export { startTempo } from './plan/start-tempo';
export { BLOWN_REED, INSTRUMENTS, PLUCKED_STRING, STRUCK_BAR } from './player/instruments';
export { type MadePlayer, madeResults } from './player/made-results';
export { renderPlaying } from './player/render';
export { type PlayedNote, simulatePlaying } from './player/simulate';
export { notesPerBeat, pitchesOf, positionsOf } from './rhythm/grid-shape';
export { METHODS, methodOf } from './rhythm/methods/methods';
export { type NoteNaming, noteValueName } from './rhythm/note-values';
export { pitch } from './rhythm/pitch';
export { passageOf, READY_PASSAGES, readyPassage } from './rhythm/ready-passages';
export {
  API,
  type BackupState,
  LARGEST_RECORDING_BYTES,
  type Reanalysis,
  RefusalSchema,
  TAKE_SORTS,
  type TakeQuery,
  TakeQuerySchema,
  type TempoHistory,
} from './schema/api';
export { beats } from './schema/beats';
export type { Closing } from './schema/closing';
export {
  type Course,
  type CourseChange,
  CourseChangeSchema,
  type CourseKey,
  CourseKeySchema,
  CourseSchema,
  courseId,
  keyOf,
} from './schema/course';
export { barStarts } from './schema/frame';
export type { ClickPlan, Drill, Grid, GridEvent, GridNote } from './schema/grid';
export { IdSchema, NameIdSchema } from './schema/ids';
export type { Measures, NoteResult, Onset } from './schema/measures';
export type { Marks, Pitch } from './schema/notation';
export type { OptionField } from './schema/options';
export { type Passage, PassageSchema } from './schema/passage';
export {
  DEFAULT_SETTINGS,
  languageDefaults,
  readSettings,
  type Settings,
  SettingsSchema,
  type StoredCalibration,
} from './schema/settings';
export { type Sitting, SittingSchema, type Standing } from './schema/sitting';
export { type Skill, STEADY } from './schema/skill';
export {
  type Correction,
  CorrectionSchema,
  type Decision,
  type EarlierAnalysis,
  EarlierAnalysisSchema,
  type Ease,
  type Edit,
  type Gap,
  type InputKind,
  type Repetition,
  RepetitionSchema,
  type Take,
  TakeSchema,
  type TakeSummary,
  TakeSummarySchema,
  type TempoAction,
} from './schema/take';
export { TEMPO_RANGE_BPM, type TempoMapDocument, TempoSchema } from './schema/tempo';
export { TOLERANCE_PRESETS, type Tolerance, type TolerancePreset, ToleranceSchema } from './schema/tolerance';
export type { Outcome, Verdict } from './schema/verdict';
export type { Why } from './schema/why';
export { advance, IDLE, type LoopEffect, type LoopEnd, type LoopEvent, type LoopState, type PlayerEvent } from './session/loop';
export { completeTake, makeTake } from './session/make-take';
export { mergeTake } from './session/merge-take';
export { problemQuestions } from './session/problem-solving';
export { enterBlock, sittingAt, standAt, underWay } from './session/sitting';
export { CALIBRATION, type Calibration, calibrate, calibrationBurst } from './signal/calibrate';
export { detectOnsetsBesideClicks } from './signal/click-onsets';
export { learnClickPath, subtractClicks } from './signal/click-removal';
export { createDeliveryWatch, type LostSound } from './signal/delivery-watch';
export { createOnsetDetector, type DetectorOptions, detectOnsets } from './signal/detect-onsets';
export { FAMILIES, type Family } from './signal/families';
export { createFilterbank, type Filterbank } from './signal/filterbank';
export { gridPrior } from './signal/grid-prior';
export { mixInto, type PlacedSound } from './signal/mix';
export { CANDIDATE_FEATURES, createCandidateFinder } from './signal/onset-candidates';
export { JUDGE } from './signal/onset-judge';
export { type Layer, type Perceptron, runPerceptron } from './signal/perceptron';
export { HEARD_PROFILES, type Profile, profileOf } from './signal/profiles';
export { attackFeatures } from './signal/refine-onset';
export { spectrumOf } from './signal/spectrum';
export type { Estimate } from './stats/interval-estimate';
export { chance } from './stats/random';
export { mean, median, sampleSd } from './stats/summary';
export { type Click, type ClickKind, clickWaveform, clickWaveforms, placeClicks } from './time/click';
export { CLICK_PLANS } from './time/click-plan';
export { expectedNotes, planRepetition, type RepetitionPlan, shortestIntervalMs } from './time/repetition-plan';
export { intervalMs, notesPerMinute } from './time/tempo';
export { constantTempo, headlineBpm, openTempo } from './time/tempo-map';
export { demandOf } from './verdict/checks';
export { judge } from './verdict/judge';
export { toleranceWindowMs } from './verdict/tolerance-window';
export { PAIN_ADVICE } from './words/pain-advice';
export { bpmWords, type Reader } from './words/reader';
export { say } from './words/say';
