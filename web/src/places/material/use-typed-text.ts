import { rewritten } from '@isochron/core/material';
import { useCallback } from 'react';
import { playerMessage } from '../../app/report-error';
import { useEditor } from '../../stores/editor';
import { useScores } from './use-scores';

/** Takes what is typed as the notes of the open passage; what cannot be read yet is said, and the notes stay as they were. */
export const useTypedText = (): ((text: string) => Promise<void>) => {
  const scores = useScores();
  return useCallback(
    async (text) => {
      useEditor.setState({ text });
      const before = useEditor.getState().passage;
      if (!before) return;
      // Of what is typed fast, only the last is shown.
      const isLast = () => useEditor.getState().text === text;
      try {
        const read = await scores.readText(text, before.id);
        // What the text said until now: marks that were taken out of it go, others stay. One that was never typed says them all.
        const said =
          before.text === undefined
            ? before
            : await scores.readText(before.text, before.id).then(
                ({ passage }) => passage,
                () => null,
              );
        if (isLast()) useEditor.setState({ passage: { ...rewritten(before, read.passage, said), text }, trouble: '' });
      } catch (error) {
        if (isLast()) useEditor.setState({ trouble: playerMessage(error) });
      }
    },
    [scores],
  );
};
