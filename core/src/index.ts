/** What other packages use of core, by folder. Listening alone is at `@isochron/core/signal`. */
export { acrossRepetitions, byGrid, type GridRepetitions, ofGrid } from './across/across-repetitions';
export { awkwardInArcs, awkwardReason } from './across/arcs';
export { type AttackHabit, attackHabitReason, attackHabits, doubleAttackReason } from './across/attack-habits';
export { distractionCost } from './across/distraction';
export { findingOf } from './across/finding';
export { labelDifferences } from './across/label-differences';
export { centredDeviationsMs, type Position } from './across/position-profile';
export { usableRepetitions } from './across/usable';
export { weakLinks } from './across/weak-links';
export { MAX_OFFSET_S, type OffsetGuess, SETTLED_OFFSET_S } from './align/align';
export { barBeats, loopSpan, meanBpm, summaryOfAccompaniment } from './beats/accompaniment';
export { alongside, beatsLeft, beatsOf } from './beats/alongside';
export { addBeat, doubleBeats, halveBeats, moveBeat, removeBeat, shiftBeats, tapBeats } from './beats/edit-beats';
export { type FoundBeats, findBeats } from './beats/find-beats';
export { playAlongReason } from './beats/play-along-reason';
export { beatsPassing, type Playback, placeAt, playbackOf } from './beats/playback';
export { type BeatEvenness, beatEvenness } from './beats/unevenness';
export { type BothSides, bothSides, bothSidesReason, lastBreak } from './curve/both-sides';
export { breakTempo, type SweptNote } from './curve/break-tempo';
export { compareCurves } from './curve/compare-curves';
export { breakReason, curveSentences, variantsSentence } from './curve/curve-sentences';
export { type Progress, type ProgressPoint, periodDaysFor, progressOf } from './curve/progress';
export { ofPart, recentRepetitions } from './curve/recent-repetitions';
export { sweptNotes } from './curve/swept-notes';
export { EASY_CHANCE, EDGE_CHANCE, type TempoCurve, type TempoRange, type Tried, tempoCurve } from './curve/tempo-curve';
export { ENGINE_VERSION } from './engine-version';
export { dbVelocity, readMidiMessage, velocityDb } from './formats/midi-message';
export { onsetsCsv } from './formats/onsets-csv';
export { majorKey } from './formats/score/key-names';
export { keyAlters } from './formats/score/pitch-spelling';
export { piecesBetween, type WrittenValue, writtenValue } from './formats/score/written-values';
export { readSmf, writeSmf } from './formats/smf';
export { type SoundSource, soundInMemory } from './formats/sound-source';
export { decodeWav, openWav, readWav } from './formats/wav';
export { type ByteSource, readWavHead } from './formats/wav-head';
export { shortOf, wavHead, writeWav } from './formats/wav-write';
export { type BeatsInRecording, beatsInRecording } from './listen/beats-in-recording';
export { listenToRecording } from './listen/listen-to-recording';
export { createListener, type Expectation, type HeardRepetition, type Listener } from './listen/listener';
export { reanalyseTake } from './listen/reanalyse-take';
export { barNamesOf, barNumbersOf, barRange } from './material/bar-numbers';
export { DANGER_CODES, type DangerSpot, dangerSpots } from './material/danger-spots';
export {
  duplicateOf,
  forInstrument,
  rewritten,
  withHandsSwapped,
  withMark,
  withSections,
  withVariant,
  withVariantName,
} from './material/edit-passage';
export { BUILT_IN_INSTRUMENTS, instrumentOf } from './material/instruments';
export {
  LIBRARY_ORDERS,
  type LibraryEntry,
  type LibraryOrder,
  libraryEntries,
  searchLibrary,
  solutionsFor,
  summaryOf,
} from './material/library';
export { makePattern, PATTERNS, patternOf } from './material/patterns/patterns';
export { READINESS, readinessLeft } from './material/readiness';
export { type SectionShares, sectionShares } from './material/section-shares';
export { type FoundSection, foundSections } from './material/sections';
export { analyseRepetition } from './measure/analyse-repetition';
export { articulationPct } from './measure/articulation';
export { type AttackFault, attackFaults, filterDoubleAttacks } from './measure/attack-faults';
export { isCertain } from './measure/certainty';
export { measureImport } from './measure/measure-import';
export { evenGridNotes, type MeasuredRecording, measureRecording } from './measure/measure-recording';
export { measureRepetition, widestStep } from './measure/measure-repetition';
export { editRepetition, onsetsOfRepetition, undoEdit } from './measure/remeasure';
export { askedBpm } from './plan/asked-bpm';
export { changedSince } from './plan/changed-since';
export { dailySummaryOf, FAST_SHARE } from './plan/daily-summary';
export { type DayMinutes, dayMinutes, SHORT_DAY_MIN } from './plan/day-minutes';
export { bearableDays, type Due, dueOf } from './plan/due';
export { addBlock, moveBlock, ownBlock, resizeBlock, skipBlock, swapBlock } from './plan/edit-plan';
export { type Forgetting, fitForgetting, fitPassage, lostAfter, type Opening, openingsOf } from './plan/forgetting';
export { type CleanDay, type GoalRange, goalRange } from './plan/goal-range';
export { configTitle, listedConfigs } from './plan/listed-configs';
export { type JudgedRepetition as StartOutcome, nextStart } from './plan/next-start';
export { type PlanInput, type PlanItem, planDay } from './plan/plan-day';
export {
  afterCorrection,
  afterTake,
  type ConfigurablePassage,
  changePracticeConfig,
  configuredGoalBpm,
  drillOf,
  drillsOfConfig,
  firstDrill,
  goalChange,
  lastPlayedAt,
  lineOf,
  newPracticeConfig,
  passageGrid,
  practiceConfigOf,
  practiceModeOf,
  type Selection,
  variantGrid,
} from './plan/practice-config';
export { BUDGET_DAYS, fastMinutes, playedShares } from './plan/slow-budget';
export { startTempo } from './plan/start-tempo';
export { summariseTake } from './plan/summarise-take';
export { type Total, totals, weekOf } from './plan/weeks';
export { BLOWN_REED, INSTRUMENTS, PLUCKED_STRING, STRUCK_BAR } from './player/instruments';
export {
  ACCOMPANIMENT_STYLES,
  type AccompanimentStyle,
  inventAccompaniment,
  inventBeats,
} from './player/invent-accompaniment';
export {
  afterNight,
  afterRepetition,
  anyLearner,
  cleanChance,
  easyNow,
  FRESH,
  LEARNERS,
  type Learner,
  type LearnerState,
  PLAYS,
  repetitionOf,
  sweepOf,
  tempoOf,
} from './player/learner';
export { handsInTurn, type MadePlayer, madeResults } from './player/made-results';
export { practiseWeeks, type WeeksResult, type WeeksRun } from './player/practise-weeks';
export { pitchHz, renderPlaying } from './player/render';
export { renderHearing } from './player/render-hearing';
export { renderPulses } from './player/render-pulses';
export { type PlayedNote, simulatePlaying } from './player/simulate';
export { BUILT_IN_PASSAGES, builtInPassage, passageOf } from './rhythm/built-in-passages';
export { notesPerBeat, pitchesOf, pitchSequence, positionsOf, sameGrid } from './rhythm/grid-shape';
export { combinedDrills, drillsOf, METHODS, methodOf } from './rhythm/methods/methods';
export { type NoteNaming, noteValueName } from './rhythm/note-values';
export { pitch } from './rhythm/pitch';
export { drillsForSpot, type SpotDrill } from './rhythm/spot-drills';
export {
  type Accompaniment,
  AccompanimentSchema,
  type AccompanimentSummary,
  type BeatsOf,
  LARGEST_ACCOMPANIMENT_BYTES,
  LONGEST_ACCOMPANIMENT_S,
} from './schema/accompaniment';
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
} from './schema/api';
export { AppError, isAppError, MAX_FAULT_LENGTH } from './schema/app-error';
export { beats, beatsNumber } from './schema/beats';
export { BENCH_ACTIONS, type BenchAction, type OwnKeys } from './schema/bench-action';
export type { RunBlock, SessionRun } from './schema/block-run';
export { SessionRunSchema } from './schema/block-run';
export * from './schema/day-plan';
export { withPresentNames } from './schema/former-names';
export { barStarts } from './schema/frame';
export type { ClickPlan, Drill, Grid, GridEvent, GridNote, MethodUse } from './schema/grid';
export { IdSchema, NameIdSchema, ZoneSchema } from './schema/ids';
export { InstrumentSchema, type MarkKind, type MusicalInstrument } from './schema/instrument';
export {
  type LibraryChange,
  LibraryChangeSchema,
  type PassageSummary,
  PassageSummarySchema,
  type Solution,
  SolutionSchema,
} from './schema/library';
export type { Measures, NoteResult, Onset, SingleOnset } from './schema/measures';
export type { Clef, Marks, Pitch } from './schema/notation';
export type { OptionField } from './schema/options';
export { type Passage, PassageSchema, type Section, type Variant } from './schema/passage';
export type { PracticeTotals } from './schema/practice';
export * from './schema/practice';
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
} from './schema/practice-config';
export { type LoopSnapshot, type PracticeSession, PracticeSessionSchema } from './schema/practice-session';
export { makeReason, type Reason } from './schema/reason';
export type { ClickSound } from './schema/settings';
export {
  DEFAULT_SETTINGS,
  languageDefaults,
  readSettings,
  type Settings,
  SettingsSchema,
  type StoredCalibration,
} from './schema/settings';
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
  type TakeListItem,
  TakeListItemSchema,
  TakeNoteSchema,
  TakeSchema,
  type TempoAction,
} from './schema/take';
export type { TakeSummary } from './schema/take-summary';
export { TEMPO_RANGE_BPM, type TempoMapDocument, TempoSchema } from './schema/tempo';
export { TOLERANCE_PRESETS, type Tolerance, type TolerancePreset, ToleranceSchema } from './schema/tolerance';
export type { Outcome, Verdict } from './schema/verdict';
export { compareStrategies, type StrategyLine, strategiesSentence } from './session/compare-strategies';
export { configuredStart } from './session/configured-start';
export { daySentences } from './session/day-sentences';
export { deriveTake, figuresOf, type TakeFigures, withRepetition } from './session/derive-take';
export { loggedTake } from './session/logged-take';
export { advance, IDLE, type LoopEffect, type LoopEnd, type LoopEvent, type LoopState, type PlayerEvent } from './session/loop';
export { completeTake, makeTake } from './session/make-take';
export { mergeTake } from './session/merge-take';
export { playedOn, REST_MIN, restDue, type Stretch } from './session/playing-stretch';
export { enterBlock, practiceSessionAt, standAt, underWay } from './session/practice-session';
export { problemQuestions } from './session/problem-solving';
export { type Proposal, proposeStrategy } from './session/propose-strategy';
export {
  afterTakeInRun,
  beginRun,
  blockAfter,
  configForBlock,
  isAtWork,
  isOfToday,
  leftMs,
  nextInRun,
  pauseRun,
  restLeftMs,
  resumeRun,
  runBlock,
} from './session/session-run';
export { chosenCount, withStrategyDrills } from './session/strategy-drills';
export { CALIBRATION, type Calibration, calibrate, calibrationBurst } from './signal/calibrate';
export { detectOnsetsBesideClicks } from './signal/click-onsets';
export { learnClickPath, subtractClicks } from './signal/click-removal';
export { createDeliveryWatch } from './signal/delivery-watch';
export { createOnsetDetector, type DetectorOptions, detectOnsets } from './signal/detect-onsets';
export { FAMILIES, type Family } from './signal/families';
export { gridPrior } from './signal/grid-prior';
export { mixInto, type PlacedSound } from './signal/mix';
export { type Layer, type Perceptron, runPerceptron } from './signal/perceptron';
export { HEARD_PROFILES, type Profile, profileOf } from './signal/profiles';
export { attackFeatures } from './signal/refine-onset';
export { spectrumOf } from './signal/spectrum';
export type { Estimate } from './stats/interval-estimate';
export { type Chance, chance } from './stats/random';
export { mean, median, sampleSd } from './stats/summary';
export { triedOf } from './strategies/adaptive';
export { beginDecisions, decide } from './strategies/decide';
export {
  beginStrategy,
  nextRepetitionKind,
  optionsOf,
  resumeStrategy,
  STRATEGIES,
  snapshotOf,
  strategyOf,
  strategyStart,
} from './strategies/strategies';
export type { RepetitionOutcome, SessionTarget } from './strategies/strategy';
export { clampBpm } from './time/clamp-tempo';
export { CLICK_SOUNDS, type Click, type ClickKind, clickWaveform, clickWaveforms, placeClicks } from './time/click';
export { CLICK_PLANS } from './time/click-plan';
export { now, nowMs, setClock } from './time/clock';
export { dayAt, dayIndex, dayNumber, localDay, weekdayOf } from './time/day';
export { drillTempo, ownBpmOf } from './time/drill-tempo';
export { groupings, usualGroups } from './time/groupings';
export {
  type ExpectedNote,
  expectedNotes,
  isWithoutClick,
  planRepetition,
  type RepetitionPlan,
  shortestIntervalMs,
} from './time/repetition-plan';
export { intervalMs, notesPerMinute } from './time/tempo';
export { constantTempo, headlineBpm, openTempo } from './time/tempo-map';
export { DAY_MS, HOUR_MS, MINUTE_MS } from './time/units';
export { dayInZone, dayStartMs, ownZone, zoneOffsetMin, zoneOffsets } from './time/zone';
export { judgedOf, toleranceUsageOf } from './verdict/checks';
export { judge } from './verdict/judge';
export { toleranceWindowMs } from './verdict/tolerance-window';
export { describeReason, drillName } from './words/describe-reason';
export { MEASURE_WORDS } from './words/measure-words';
export { PAIN_ADVICE } from './words/pain-advice';
export { bpmWords, type Reader } from './words/reader';
