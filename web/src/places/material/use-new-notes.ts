import type { Passage } from '@isochron/core/schema';
import { useCallback } from 'react';
import { useEditor } from '../../stores/editor';
import { useScores } from './use-scores';

/** Changes the notes of the open passage otherwise than by typing: they are shown at once, and their text is written anew with them. */
export const useNewNotes = (): ((passage: Passage) => void) => {
  const scores = useScores();
  return useCallback(
    ({ text: _, ...passage }) => {
      useEditor.setState({ passage, trouble: '' });
      const write = async () => {
        const text = new TextDecoder().decode(await scores.write(passage, '.txt'));
        // Of several changes in a row, the last one's text is kept.
        if (useEditor.getState().passage === passage) useEditor.setState({ passage: { ...passage, text }, text });
      };
      void write();
    },
    [scores],
  );
};
