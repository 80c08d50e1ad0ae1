import type { Passage } from '@isochron/core/schema';
import { useEffect, useRef, useState } from 'react';
import { usePassageWriter } from '../../api/queries/passages';
import { playerMessage } from '../../app/report-error';
import { forgetDraft, keepDraft, useEditor } from '../../stores/editor';

const AFTER_MS = 700;

export type Saving = 'saved' | 'waiting' | 'saving';

const isSame = (a: Passage, b: Passage) => JSON.stringify({ ...a, revision: 0 }) === JSON.stringify({ ...b, revision: 0 });

/**
 * Stores what is edited a moment after the last change, and keeps it in the browser until then. What the server refuses is said and stays
 * in the browser.
 */
export const useAutosave = (stored: Passage | null): { saving: Saving; trouble: string } => {
  const { passage, text, from, trouble: unread } = useEditor();
  const { store } = usePassageWriter();
  const [saving, setSaving] = useState<Saving>('saved');
  const [trouble, setTrouble] = useState('');
  const known = useRef<Passage | null>(stored);
  known.current = stored ?? known.current;

  useEffect(() => {
    if (!passage) return;
    const isStored = known.current?.id === passage.id && isSame(known.current, passage);
    if (isStored && !unread) {
      forgetDraft(passage.id);
      setSaving('saved');
      return;
    }
    keepDraft({ passage, text, from });
    if (isStored) return;
    setSaving('waiting');
    const timer = setTimeout(async () => {
      setSaving('saving');
      try {
        const answer = await store(passage, from);
        known.current = answer;
        setTrouble('');
        setSaving('saved');
        // What was typed meanwhile stays; only the revision is known anew.
        useEditor.setState({ from: answer.revision });
        if (!unread && useEditor.getState().passage === passage) forgetDraft(passage.id);
      } catch (error) {
        setTrouble(playerMessage(error));
        setSaving('waiting');
      }
    }, AFTER_MS);
    return () => clearTimeout(timer);
  }, [passage, text, from, unread, store]);
  return { saving, trouble };
};
