import type { Repetition, Take } from '../schema/take';
import { deriveTake } from './derive-take';

/** Whether what is stored of a repetition is worth more than what the player's browser kept: corrected by hand, or measured anew. */
const isWorkedOn = (stored: Repetition, storedEngine: string, mine: Take): boolean =>
  (stored.edits?.length ?? 0) > 0 || storedEngine !== mine.engine;

/** One repetition of two copies: figures from the stored one where they were worked on; the answer about ease from either. */
const mergeRepetition = (stored: Repetition, mine: Repetition, keepFigures: boolean): Repetition => {
  if (!keepFigures) return mine;
  // An answer about ease comes with the decision that was taken again for it.
  return mine.ease === null ? stored : { ...stored, ease: mine.ease, decision: mine.decision };
};

/**
 * Puts together a take as the server has it and the copy that the browser kept of it, where both have changed. Nothing that
 * anyone did is lost: corrections by hand and newer figures of the stored one stay, repetitions that only one copy has are kept,
 * answers about ease are taken over. The result carries the stored revision: it is the next change of it.
 */
export const mergeTake = (stored: Take, mine: Take): Take => {
  const theirs = new Map(stored.repetitions.map((repetition) => [repetition.index, repetition]));
  const own = new Map(mine.repetitions.map((repetition) => [repetition.index, repetition]));
  const indices = [...new Set([...theirs.keys(), ...own.keys()])].sort((a, b) => a - b);
  const repetitions = indices.flatMap((index) => {
    const a = theirs.get(index);
    const b = own.get(index);
    if (a && b) return mergeRepetition(a, b, isWorkedOn(a, stored.engine, mine));
    return a ?? b ?? [];
  });
  const longer = mine.repetitions.length >= stored.repetitions.length ? mine : stored;
  const endedAt =
    [stored.endedAt, mine.endedAt]
      .filter((at) => at !== null)
      .sort()
      .at(-1) ?? null;
  return deriveTake({
    ...longer,
    revision: stored.revision,
    // Figures of two engines side by side are named by the one that measured the stored ones.
    engine: stored.engine,
    endedAt,
    hasRecording: stored.hasRecording,
    gaps: stored.gaps.length > mine.gaps.length ? stored.gaps : mine.gaps,
    repetitions,
  });
};
