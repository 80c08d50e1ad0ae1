/** What is practised: passages, grids, methods, tempo maps, clicks, recordings to play along with, files. At `@isochron/core/material`. */

// Reasons are made by codes that the dictionaries name.
import type {} from '../words/describe-reason';

export { barBeats, loopSpan, meanBpm, summaryOfAccompaniment } from '../beats/accompaniment';
export { alongside, beatsLeft, beatsOf } from '../beats/alongside';
export { addBeat, doubleBeats, halveBeats, moveBeat, removeBeat, shiftBeats, tapBeats } from '../beats/edit-beats';
export { type FoundBeats, findBeats } from '../beats/find-beats';
export { playAlongReason } from '../beats/play-along-reason';
export { beatsPassing, type Playback, placeAt, playbackOf } from '../beats/playback';
export { type BeatEvenness, beatEvenness } from '../beats/unevenness';
export { dbVelocity, readMidiMessage, velocityDb } from '../formats/midi-message';
export { onsetsCsv } from '../formats/onsets-csv';
export { isCancelled } from '../formats/opposite-phase';
export { majorKey, minorKey } from '../formats/score/key-names';
export { keyAlters } from '../formats/score/pitch-spelling';
export { textFollowing } from '../formats/score/text-follow';
export { piecesBetween, type WrittenValue, writtenValue } from '../formats/score/written-values';
export { readSmf, writeSmf } from '../formats/smf';
export type { ByteSource } from '../formats/sound-head';
export { type SoundSource, soundInMemory } from '../formats/sound-source';
export { decodeWav, openWav, readWav, soundHead } from '../formats/wav';
export { readWavHead } from '../formats/wav-head';
export { shortOf, wavHead, writeWav } from '../formats/wav-write';
export { barNamesOf, barNumbersOf, barRange } from '../material/bar-numbers';
export { type DangerSpot, dangerSpots } from '../material/danger-spots';
export { type CopiedBars, copiedBars, withBars, withoutBars, withSilentBar } from '../material/edit-bars';
export { PITCHED_CLEFS, withBeatUnit, withClef, withKey, withMeter } from '../material/edit-frame';
export { type NoteEdit, withNoteEdited } from '../material/edit-note';
export {
  duplicateOf,
  forInstrument,
  rewritten,
  withHandsSwapped,
  withMark,
  withSections,
  withVariant,
  withVariantName,
} from '../material/edit-passage';
export { hasEveryWord } from '../material/every-word';
export { forItsPart } from '../material/instrument-of-part';
export { BUILT_IN_INSTRUMENTS, instrumentOf } from '../material/instruments';
export {
  LIBRARY_ORDERS,
  type LibraryEntry,
  type LibraryOrder,
  libraryEntries,
  searchLibrary,
  solutionsFor,
  summaryOf,
} from '../material/library';
export { type NoteMove, withNoteMoved, withNotePitch } from '../material/move-note';
export { makePattern, PATTERNS, patternOf } from '../material/patterns/patterns';
export { READINESS, type ReadinessCheck, readinessLeft, SLOWER_SHARE } from '../material/readiness';
export { type SectionShares, sectionShares } from '../material/section-shares';
export { type FoundSection, foundSections } from '../material/sections';
export { transposed, transpositions } from '../material/transpose';
export { BUILT_IN_PASSAGES, builtInPassage, passageOf } from '../rhythm/built-in-passages';
export { CLEFS, clefChanges } from '../rhythm/clefs';
export { type DrumPart, drumPartOf } from '../rhythm/drum-kit';
export { exactPositionsOf, notesPerBeat, pitchesOf, pitchSequence, positionsOf, sameGrid } from '../rhythm/grid-shape';
export { METHOD_CATEGORIES, type Method, type MethodCategory } from '../rhythm/methods/method';
export { methodFields, methodParameters } from '../rhythm/methods/method-fields';
export { methodSuits, type PlayedOn } from '../rhythm/methods/method-suits';
export { combinedDrills, drillsOf, METHODS, methodOf, rotatedDrills } from '../rhythm/methods/methods';
export { methodsCombine } from '../rhythm/methods/methods-combine';
export { meterAt, placesIn } from '../rhythm/metric';
export { MIND_TASKS, type MindTask, mindTaskOf } from '../rhythm/mind-tasks';
export { type NoteNaming, noteValueName } from '../rhythm/note-values';
export { pitch, stepsUp } from '../rhythm/pitch';
export { drillsForSpot, type SpotDrill } from '../rhythm/spot-drills';
export { canSwing, swingMarks, withSwing } from '../rhythm/swing';
export { type TempoUnit, tempoUnitOf, tempoUnits } from '../rhythm/tempo-units';
export { type BareBar, barClicks, bareBarS } from '../time/bar-clicks';
export { clampBpm } from '../time/clamp-tempo';
export { CLICK_SOUNDS, type Click, type ClickKind, clickWaveform, clickWaveforms, placeClicks } from '../time/click';
export { CLICK_PLANS } from '../time/click-plan';
export { drillTempo, ownBpmOf } from '../time/drill-tempo';
export { beamStarts, groupings, usualGroups } from '../time/groupings';
export {
  beatAt,
  type ExpectedNote,
  expectedNotes,
  isWithoutClick,
  planRepetition,
  type RepetitionPlan,
  shortestIntervalMs,
} from '../time/repetition-plan';
export { tappedBpm } from '../time/tapped-tempo';
export { intervalMs, notesPerMinute } from '../time/tempo';
export { constantTempo, headlineBpm, openTempo } from '../time/tempo-map';
