import type { NoteResult, Onset } from '../schema/measures';
import { median, robustSd } from '../stats/summary';

/** Something about how one note spoke. */
export interface AttackFault {
  index: number;
  /**
   * `doubled`: struck twice within a few hundredths of a second; `ghosted`: next to not sounding beside its neighbours; `died`: its
   * sound ended early beside theirs; `overlapping`: still held well after the next note began.
   */
  kind: 'doubled' | 'ghosted' | 'died' | 'overlapping';
  /** Its size: the gap or the overlap in ms, or how far below the others in dB. */
  size: number;
}

/** Where most attacks look doubled, how much likelier than the usual one (natural log-odds) a note must be to be called so. */
const BEYOND_USUAL = 1.5;

/**
 * Onsets whose second attack is kept only where it stands out: some instruments rattle at every attack, and theirs are not doubled.
 */
export const filterDoubleAttacks = (onsets: readonly Onset[]): Onset[] => {
  const usual = median(onsets.map(({ doubledOdds = 0 }) => Math.max(0, doubledOdds)));
  return onsets.map((onset) => {
    const { doubledOdds, doubleAttackMs, ...rest } = onset;
    if (doubledOdds === undefined) return onset;
    return doubledOdds > (usual > 0 ? usual + BEYOND_USUAL : 0) ? { ...rest, doubleAttackMs } : rest;
  });
};

/** Fewer notes say nothing about what is usual among them. */
const MIN_NOTES = 6;
/** A note is out of the ordinary this far from the median, in robust standard deviations, and at least this far in decibels. */
const FAR = 3.5;
const GHOSTED_DB = 10;
const DIED_DB = 12;
/** Notes of about the same length are compared. */
const SAME_LENGTH = 1.3;
/** Held beyond the next note by more than this share of the step between them. */
const OVERLAP_SHARE = 0.35;

/** The values that lie below what is usual by so many decibels. */
const below = (notes: readonly { index: number; value: number }[], leastDb: number) => {
  if (notes.length < MIN_NOTES) return [];
  const values = notes.map(({ value }) => value);
  const usual = median(values);
  const limit = Math.max(leastDb, FAR * robustSd(values));
  return notes.flatMap(({ index, value }) => (usual - value > limit ? [{ index, size: usual - value }] : []));
};

/**
 * What about the attacks and the ends of a repetition's notes is out of the ordinary, in the order of the notes. `accented` tells
 * notes that are meant to stand out: they and their neighbours are not compared in level.
 */
export const attackFaults = (notes: readonly NoteResult[], accented: (index: number) => boolean): AttackFault[] => {
  const played = notes.filter(({ onsetS }) => onsetS !== null);
  const doubled = played.flatMap(({ index, doubleAttackMs }) =>
    doubleAttackMs === undefined ? [] : [{ index, kind: 'doubled' as const, size: doubleAttackMs }],
  );
  const levels = played.flatMap(({ index, levelDb }) =>
    levelDb === null || accented(index) ? [] : [{ index, value: levelDb }],
  );
  const ghosted = below(levels, GHOSTED_DB).map((one) => ({ ...one, kind: 'ghosted' as const }));
  const steps = played.slice(0, -1).map((note, k) => {
    const next = played[k + 1] as NoteResult;
    return { note, stepS: (next.onsetS as number) - (note.onsetS as number), expectedS: next.expectedS - note.expectedS };
  });
  const usualS = median(steps.map(({ expectedS }) => expectedS));
  const alike = steps.filter(({ expectedS }) => Math.max(expectedS / usualS, usualS / expectedS) <= SAME_LENGTH);
  const fades = alike.flatMap(({ note: { index, fadeDb } }) => (fadeDb === undefined ? [] : [{ index, value: -fadeDb }]));
  const died = below(fades, DIED_DB).map((one) => ({ ...one, kind: 'died' as const }));
  const overlapping = steps.flatMap(({ note: { index, offS, onsetS }, stepS }) => {
    const beyondS = offS === undefined ? 0 : offS - (onsetS as number) - stepS;
    return beyondS > OVERLAP_SHARE * stepS ? [{ index, kind: 'overlapping' as const, size: 1000 * beyondS }] : [];
  });
  return [...doubled, ...ghosted, ...died, ...overlapping].sort((a, b) => a.index - b.index);
};
