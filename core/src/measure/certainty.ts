import type { NoteResult, Onset } from '../schema/measures';
import { mean } from '../stats/summary';

/** A note that the ear is less sure of than this may be none. */
const SURE = 0.75;
/** A time that may be off by more than this share of the tolerance window says nothing about being inside it. */
const WINDOW_SHARE = 0.5;
/** Whether the ear is sure of an onset: an extra one that it is not sure of does not count. */
export const isCertain = ({ confidence }: Pick<Onset, 'confidence'>): boolean => confidence === undefined || confidence >= SURE;

/** The notes that the ear was not sure of, or whose time it cannot tell within their window; null where the input is no sound. */
export const unsureNotes = (results: readonly NoteResult[], windowMs: (result: NoteResult) => number): number | null => {
  const heard = results.filter(({ confidence, errorMs }) => confidence !== undefined || errorMs !== undefined);
  if (heard.length === 0) return null;
  return heard.filter((result) => !isCertain(result) || (result.errorMs ?? 0) > WINDOW_SHARE * windowMs(result)).length;
};

/** How far the ear's own timing noise may be off, as a share. */
export const ONSET_NOISE_UNCERTAINTY = 0.5;

/** The ear's own timing noise over a repetition's notes (standard deviation, ms); null where nothing is known of single notes. */
export const onsetNoiseMs = (results: readonly NoteResult[]): number | null => {
  const errors = results.flatMap(({ onsetS, errorMs }) => (onsetS === null || errorMs === undefined ? [] : [errorMs]));
  return errors.length > 0 ? Math.sqrt(mean(errors.map((error) => error ** 2))) : null;
};
