/** Notation in files and in text, at `@isochron/core/score`: kept apart, so that only who needs it loads it. */

// Reasons are made by codes that the dictionaries name.
import type {} from '../words/describe-reason';

export { formatOf, PASSAGE_FORMATS, type PassageFormat, readPassageFile } from '../formats/score/passage-files';
export { passageFigures } from '../formats/score/passage-json';
export { clicksInBar, type PlayedIn, playedSmf } from '../formats/score/played-smf';
export { UnreadableScore } from '../formats/score/score';
export type { ScorePart } from '../formats/score/score-parts';
export { passageOfScore, type ReadPassage } from '../formats/score/score-passage';
export { readText } from '../formats/score/text-read';
export { pitchText, writeText } from '../formats/score/text-write';
export { piecesBetween, type WrittenValue, writtenValue } from '../formats/score/written-values';
