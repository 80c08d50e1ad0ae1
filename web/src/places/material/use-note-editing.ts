import {
  copiedBars,
  withBars,
  withMark,
  withNoteEdited,
  withNoteMoved,
  withNotePitch,
  withoutBars,
  withSilentBar,
} from '@isochron/core/material';
import { barAt, barStarts, beatsNumber, type Grid, type Marks, type Passage } from '@isochron/core/schema';
import { useState } from 'react';
import { changePassage, useEditor } from '../../stores/editor';
import { copyBars, pastedBars } from './bar-clip';
import type { BarAction, noteKey, PageAction } from './note-keys';
import { useNewNotes } from './use-new-notes';

/** By a key, or by the pitch that a MIDI instrument sends, as it sounds. */
type NoteAction = NonNullable<ReturnType<typeof noteKey>> | { pitch: number };

/** What is done at a note of the open passage's notation: by its event, to the highest note of a staff. */
export interface NoteEditing {
  mark(event: number, staff: number, marks: Partial<Marks>): void;
  act(event: number, staff: number, action: NoteAction): void;
  /** The bar from which bars are copied or cut, from 0; null for the note's own alone. */
  fromBar: number | null;
}

const OTHER_BEAT = 'The copied bars are counted in another beat than this passage. Type them, or change its beat (F).';

/** Edits the open passage from its notation; its text follows. */
export const useNoteEditing = (
  passage: Passage | null,
  grid: Grid | null,
  variantId: string | undefined,
  open: Record<Exclude<PageAction, 'from here'>, () => void>,
): NoteEditing => {
  const changeNotes = useNewNotes();
  const [fromBar, setFromBar] = useState<number | null>(null);
  const noteAt = (event: number, staff: number) => grid?.events[event]?.notes.findLast((note) => note.staff === staff)?.from;
  const barOf = (whole: Passage, event: number) => barAt(barStarts(whole), beatsNumber(grid?.events[event]?.at ?? '0')) - 1;
  const paste = (whole: Passage, bar: number) => {
    const copied = pastedBars();
    const pasted = copied && withBars(whole, bar, copied);
    if (pasted) changeNotes(pasted);
    else if (copied) useEditor.setState({ trouble: OTHER_BEAT });
  };
  const onBar = (whole: Passage, bar: number, action: BarAction) => {
    if (action === 'paste') paste(whole, bar);
    else if (action === 'silence') changeNotes(withSilentBar(whole, bar));
    else {
      const [first, last] = [Math.min(bar, fromBar ?? bar), Math.max(bar, fromBar ?? bar)];
      copyBars(copiedBars(whole, first, last));
      setFromBar(null);
      if (action === 'cut') changeNotes(withoutBars(whole, first, last));
    }
  };
  return {
    fromBar,
    mark: (event, staff, marks) => {
      const note = noteAt(event, staff);
      if (!passage || note === undefined) return;
      const marked = withMark(passage, variantId ?? 'first', note, marks);
      // What is written in the first way to play stands in the text.
      const isFirst = variantId === undefined || variantId === passage.variants[0]?.id;
      if (isFirst) changeNotes(marked);
      else changePassage(marked);
    },
    act: (event, staff, action) => {
      const note = noteAt(event, staff);
      if (!passage || note === undefined) return;
      if ('bar' in action) onBar(passage, barOf(passage, event), action.bar);
      else if ('page' in action) {
        if (action.page === 'from here') setFromBar((bar) => (bar === barOf(passage, event) ? null : barOf(passage, event)));
        else open[action.page]();
      } else {
        const edited =
          'pitch' in action
            ? withNotePitch(passage, note, action.pitch)
            : 'move' in action
              ? withNoteMoved(passage, note, action.move)
              : withNoteEdited(passage, note, action.edit);
        if (edited !== passage) changeNotes(edited);
      }
    },
  };
};
