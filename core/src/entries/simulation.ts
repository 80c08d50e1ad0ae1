/** Players and learners that play for tests, benchmarks and the demo. At `@isochron/core/simulation`. */

// Reasons are made by codes that the dictionaries name.
import type {} from '../words/describe-reason';

export { BLOWN_REED, INSTRUMENTS, PLUCKED_STRING, STRUCK_BAR } from '../player/instruments';
export {
  ACCOMPANIMENT_STYLES,
  type AccompanimentStyle,
  inventAccompaniment,
  inventBeats,
} from '../player/invent-accompaniment';
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
  outcomeOf,
  PLAYS,
  repetitionOf,
  sweepOf,
  tempoOf,
} from '../player/learner';
export { handsInTurn, type MadePlayer, madeResults } from '../player/made-results';
export { practiseWeeks, type WeeksResult, type WeeksRun } from '../player/practise-weeks';
export { pitchHz, renderPlaying } from '../player/render';
export { renderHearing } from '../player/render-hearing';
export { renderPulses } from '../player/render-pulses';
export { atLevel, type PlayedNote, simulatePlaying } from '../player/simulate';
