import { copiedBar, withBar, withMark, withNoteEdited, withNoteMoved, withoutBar } from '@isochron/core/material';
import { barAt, barStarts, beatsNumber, type Grid, type Marks, type Passage } from '@isochron/core/schema';
import { changePassage, useEditor } from '../../stores/editor';
import { copyBar, pastedBar } from './bar-clip';
import type { BarAction, noteKey } from './note-keys';
import { useNewNotes } from './use-new-notes';

type NoteAction = NonNullable<ReturnType<typeof noteKey>>;

/** What is done at a note of the open passage's notation: by its event, to the highest note of a staff. */
export interface NoteEditing {
  mark(event: number, staff: number, marks: Partial<Marks>): void;
  act(event: number, staff: number, action: NoteAction): void;
}

const OTHER_BEAT = 'The copied bar is counted in another beat than this passage. Type it, or change the beat in the text.';

/** Edits the open passage from its notation; its text follows. */
export const useNoteEditing = (passage: Passage | null, grid: Grid | null, variantId: string | undefined): NoteEditing => {
  const changeNotes = useNewNotes();
  const noteAt = (event: number, staff: number) => grid?.events[event]?.notes.findLast((note) => note.staff === staff)?.from;
  const onBar = (whole: Passage, event: number, action: BarAction) => {
    const bar = barAt(barStarts(whole), beatsNumber(grid?.events[event]?.at ?? '0')) - 1;
    if (action === 'paste') {
      const copied = pastedBar();
      const pasted = copied && withBar(whole, bar, copied);
      if (pasted) changeNotes(pasted);
      else if (copied) useEditor.setState({ trouble: OTHER_BEAT });
      return;
    }
    copyBar(copiedBar(whole, bar));
    if (action === 'cut') changeNotes(withoutBar(whole, bar));
  };
  return {
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
      if ('bar' in action) onBar(passage, event, action.bar);
      else {
        const edited =
          'move' in action ? withNoteMoved(passage, note, action.move) : withNoteEdited(passage, note, action.edit);
        if (edited !== passage) changeNotes(edited);
      }
    },
  };
};
