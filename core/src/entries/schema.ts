/** The shapes of everything that is stored or sent, with what they are made of: ids, days, the clock, reasons. At `@isochron/core/schema`. */

// Reasons are made by codes that the dictionaries name.
import type {} from '../words/describe-reason';

export { ENGINE_VERSION } from '../engine-version';
export {
  type Accompaniment,
  AccompanimentSchema,
  type AccompanimentSummary,
  type BeatsOf,
  LARGEST_ACCOMPANIMENT_BYTES,
  LONGEST_ACCOMPANIMENT_S,
} from '../schema/accompaniment';
export {
  API,
  type BackupState,
  type Integrity,
  IntegritySchema,
  LARGEST_RECORDING_BYTES,
  type LoggedTempo,
  type PassageRepetitions,
  type ProgressQuery,
  ProgressQuerySchema,
  type ProgressRepetitions,
  type Reanalysis,
  RequestErrorSchema,
  type TakeQuery,
  TakeQuerySchema,
  type TempoHistory,
  TempoLogSchema,
  type Tidied,
} from '../schema/api';
export { AppError, isAppError, MAX_FAULT_LENGTH } from '../schema/app-error';
export { beats, beatsNumber, type Exact, exactBisector } from '../schema/beats';
export { BENCH_ACTIONS, type BenchAction, type OwnKeys } from '../schema/bench-action';
export type { RunBlock, SessionRun } from '../schema/block-run';
export { SessionRunSchema } from '../schema/block-run';
export * from '../schema/day-plan';
export { withPresentNames } from '../schema/former-names';
export { barAt, barStarts, fifthsAt } from '../schema/frame';
export type { ClickPlan, Drill, Grid, GridEvent, GridNote, MethodUse } from '../schema/grid';
export { IdSchema, NameIdSchema, ZoneSchema } from '../schema/ids';
export { InstrumentSchema, type MarkKind, type MusicalInstrument } from '../schema/instrument';
export {
  type LibraryChange,
  LibraryChangeSchema,
  type PassageSummary,
  PassageSummarySchema,
  type Solution,
  SolutionSchema,
} from '../schema/library';
export type { Measures, NoteResult, Onset, SingleOnset } from '../schema/measures';
export {
  type Clef,
  ClefSchema,
  type Marks,
  type Ornament,
  type Pitch,
  type Printed,
  type SectionSwing,
  SectionSwingSchema,
} from '../schema/notation';
export type { OptionField } from '../schema/options';
export { type Passage, PassageSchema, type Section, type Variant } from '../schema/passage';
export type { PracticeTotals } from '../schema/practice';
export * from '../schema/practice';
export {
  FIRST_VARIANT,
  type PracticeConfig,
  type PracticeConfigChange,
  PracticeConfigChangeSchema,
  type PracticeConfigKey,
  PracticeConfigKeySchema,
  PracticeConfigSchema,
  practiceConfigId,
  practiceConfigKey,
  WHOLE,
} from '../schema/practice-config';
export { type LoopSnapshot, type PracticeSession, PracticeSessionSchema } from '../schema/practice-session';
export { makeReason, type Reason, type ReasonCatalogue } from '../schema/reason';
export {
  type AfterBreak,
  AfterBreakSchema,
  type ClickSound,
  DEFAULT_SETTINGS,
  languageDefaults,
  readSettings,
  type Settings,
  SettingsChangeSchema,
  SettingsSchema,
  type StoredCalibration,
} from '../schema/settings';
export { type Skill, STEADY } from '../schema/skill';
export {
  type Correction,
  CorrectionSchema,
  type Decision,
  type EarlierAnalysis,
  EarlierAnalysisSchema,
  type Ease,
  EaseSchema,
  type Edit,
  type Gap,
  type InputKind,
  type Repetition,
  RepetitionSchema,
  type Take,
  type TakeListItem,
  TakeListItemSchema,
  TakeNoteSchema,
  TakeSchema,
  type TempoAction,
} from '../schema/take';
export type { TakeSummary } from '../schema/take-summary';
export { TEMPO_RANGE_BPM, type TempoMapDocument, TempoSchema } from '../schema/tempo';
export { TOLERANCE_PRESETS, type Tolerance, type TolerancePreset, ToleranceSchema } from '../schema/tolerance';
export type { Outcome, Verdict } from '../schema/verdict';
export { now, nowMs, setClock } from '../time/clock';
export { dayAt, dayIndex, dayNumber, localDay, weekdayOf } from '../time/day';
export { DAY_MS, HOUR_MS, MINUTE_MS } from '../time/units';
export { dayInZone, dayStartMs, ownZone, zoneOffsetMin, zoneOffsets } from '../time/zone';
