import { textFollowing } from '@isochron/core/material';
import { nowMs, type Passage, PassageSchema } from '@isochron/core/schema';
import { z } from 'zod';
import { temporal } from 'zundo';
import { create } from 'zustand';

/** What is being edited: a passage, and the text in which its notes were typed. */
interface Editor {
  passage: Passage | null;
  /** The text as it stands in the field; it may not be readable yet. */
  text: string;
  /** The revision that is stored; 0 for a passage that is not stored yet. */
  from: number;
  /** What is wrong with the text, or empty. */
  trouble: string;
}

const EMPTY: Editor = { passage: null, text: '', from: 0, trouble: '' };
/** Keystrokes closer together than this are undone together. */
const TOGETHER_MS = 600;

/** The editor of the page that is open. Every change can be undone; what is stored of it is none of its business. */
export const useEditor = create<Editor>()(
  temporal(() => EMPTY, {
    limit: 200,
    partialize: ({ passage, text, trouble }) => ({ passage, text, trouble }),
    equality: (a, b) => a.passage === b.passage && a.text === b.text,
    handleSet: (keep) => {
      let last = 0;
      return (state) => {
        const now = nowMs();
        if (now - last > TOGETHER_MS) keep(state);
        last = now;
      };
    },
  }),
);

const DraftSchema = z.object({ passage: PassageSchema, text: z.string(), from: z.number() });
type Draft = z.infer<typeof DraftSchema>;

const keyOfDraft = (id: string) => `isochron-draft-${id}`;

/** What was being written when the page was left, and is not stored; null where all is. */
export const readDraft = (id: string): Draft | null => {
  try {
    return DraftSchema.safeParse(JSON.parse(localStorage.getItem(keyOfDraft(id)) ?? 'null')).data ?? null;
  } catch {
    return null;
  }
};

/** Keeps what is being written in the browser until it is stored. */
export const keepDraft = (draft: Draft): void => {
  try {
    localStorage.setItem(keyOfDraft(draft.passage.id), JSON.stringify(draft));
  } catch {
    // A full browser keeps no drafts; the server still stores what can be read.
  }
};

export const forgetDraft = (id: string): void => {
  try {
    localStorage.removeItem(keyOfDraft(id));
  } catch {
    // Nothing was kept.
  }
};

/** Begins to edit: what was done before can no longer be undone. */
export const openEditor = (passage: Passage, text: string, from: number): void => {
  useEditor.setState({ passage, text: textFollowing(text, passage), from, trouble: '' });
  useEditor.temporal.getState().clear();
};

/** Changes the passage otherwise than by its text, which follows. */
export const changePassage = (passage: Passage): void => {
  const before = useEditor.getState().text;
  const text = textFollowing(before, passage);
  useEditor.setState(text === before ? { passage } : { passage: { ...passage, text }, text });
};

/** Nothing is edited any more; what is not stored stays as a draft. */
export const closeEditor = (): void => useEditor.setState(EMPTY);

/** One step back, or forward again. */
export const undo = (): void => useEditor.temporal.getState().undo();
export const redo = (): void => useEditor.temporal.getState().redo();
