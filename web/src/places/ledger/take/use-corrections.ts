import { editRepetition, onsetsOfRepetition, undoEdit } from '@isochron/core/analysis';
import type { Repetition, Take } from '@isochron/core/schema';
import { withRepetition } from '@isochron/core/strategy';
import { useMutation } from '@tanstack/react-query';
import { useState } from 'react';
import { putRepetition } from '../../../api/client';
import { refetchTake, shownTake, showTake } from '../../../api/queries/takes';
import { refreshFigures } from '../../../api/queries/upkeep';
import { playerMessage } from '../../../app/report-error';

/** A correction belongs to the repetition it lies in; beyond this from all of them it belongs to none. */
const REACH_S = 1;
/** A note this near to the cursor can be removed. */
const NEAR_S = 0.1;
/** Level of a note added by hand where no other tells one. */
const PLAIN_LEVEL_DB = -20;

/** The repetition that a moment of the recording belongs to, or null. */
const repetitionAt = (repetitions: readonly Repetition[], timeS: number): Repetition | null => {
  const distance = ({ notes }: Repetition) => {
    const first = notes[0]?.expectedS ?? 0;
    const last = notes.at(-1)?.expectedS ?? 0;
    return Math.max(0, first - timeS, timeS - last);
  };
  const nearest = repetitions.reduce<Repetition | null>(
    (best, one) => (best === null || distance(one) < distance(best) ? one : best),
    null,
  );
  return nearest && distance(nearest) <= REACH_S ? nearest : null;
};

/** One repetition as it is after a correction by hand. */
interface Correction {
  corrected: Repetition;
}

/** Corrections of a take by hand, at a moment of its recording; each is stored as it is made, and what came of it is said. */
export const useCorrections = (take: Take | null) => {
  const takeId = take?.id ?? '';
  const [remark, setRemark] = useState('');
  const { mutate } = useMutation({
    // Each correction is of the take as it is once the one before it is stored.
    mutationFn: ({ corrected }: Correction) =>
      putRepetition(takeId, { takeRevision: shownTake(takeId)?.revision ?? 0, repetition: corrected }),
    scope: { id: `corrections of ${takeId}` },
  });

  const replace = (of: Take, corrected: Repetition, said: string) => {
    showTake(withRepetition(of, corrected));
    setRemark(said);
    mutate(
      { corrected },
      {
        onSuccess: ({ revision }) => {
          const now = shownTake(takeId);
          if (now) showTake({ ...now, revision });
          // Lists, configurations and plans go by what this take came to.
          void refreshFigures();
        },
        onError: async (error) => {
          showTake(of);
          // Said once it is true: what is shown is what is stored.
          await refetchTake(takeId);
          setRemark(`The correction was not kept: ${playerMessage(error)}`);
        },
      },
    );
  };
  /** Does something to the repetition at the cursor, or says that there is none. */
  const correct = (timeS: number, change: (of: Take, repetition: Repetition) => void) => {
    if (!take) return;
    const repetition = repetitionAt(take.repetitions, timeS);
    if (repetition) change(take, repetition);
    else setRemark('There is no repetition at the cursor: move it closer to one.');
  };
  const onAdd = (timeS: number) =>
    correct(timeS, (of, repetition) => {
      const levelDb = onsetsOfRepetition(repetition)[0]?.levelDb ?? PLAIN_LEVEL_DB;
      const edited = editRepetition(of, repetition, { kind: 'add', onset: { timeS, levelDb } });
      replace(of, edited, `A note was added to repetition ${repetition.index + 1}, and it was measured again.`);
    });
  const onRemove = (timeS: number) =>
    correct(timeS, (of, repetition) => {
      const onset = onsetsOfRepetition(repetition).reduce<ReturnType<typeof onsetsOfRepetition>[number] | null>(
        (best, one) => (best === null || Math.abs(one.timeS - timeS) < Math.abs(best.timeS - timeS) ? one : best),
        null,
      );
      if (!onset || Math.abs(onset.timeS - timeS) > NEAR_S) {
        setRemark('There is no note within a tenth of a second of the cursor.');
        return;
      }
      const edited = editRepetition(of, repetition, { kind: 'remove', onset });
      replace(of, edited, `A note was removed from repetition ${repetition.index + 1}, and it was measured again.`);
    });
  const onUndo = (timeS: number) =>
    correct(timeS, (of, repetition) => {
      if (!repetition.edits?.length) setRemark(`Nothing was corrected in repetition ${repetition.index + 1}.`);
      else replace(of, undoEdit(of, repetition), `The last correction of repetition ${repetition.index + 1} was undone.`);
    });

  return { remark, onAdd, onRemove, onUndo };
};
