import { Box } from '@chakra-ui/react';
import { beatsNumber, type Grid } from '@isochron/core/schema';
import type { StripSystem } from '../../strip/strip-layout';
import { noteKey } from './note-keys';
import { markWords, typedMark } from './typed-mark';
import type { NoteEditing } from './use-note-editing';

interface Props {
  grid: Grid;
  system: StripSystem;
  /** The event whose marks are in the tab order. */
  current: number;
  onReach(event: number): void;
  editing: NoteEditing;
}

/** Under each note a place for its marks: letters and digits are written into it, arrows go from note to note or move the note, letters edit it. */
export const MarkRow = ({ grid, system, current, onReach, editing }: Props) => {
  const go = (to: number) => {
    const target = Math.max(0, Math.min(grid.events.length - 1, to));
    onReach(target);
    document.querySelector<HTMLElement>(`[data-mark="${target}"]`)?.focus();
  };
  const onKey = (event: React.KeyboardEvent, index: number) => {
    const action = noteKey(event);
    if (action) {
      editing.act(index, action);
      // A note that is gone leaves its place to the next one, or to the last.
      setTimeout(() => {
        const left = document.querySelectorAll<HTMLElement>('[data-mark]').length;
        document.querySelector<HTMLElement>(`[data-mark="${Math.min(index, left - 1)}"]`)?.focus();
      });
    } else if (event.ctrlKey || event.metaKey || event.altKey) return;
    else if (event.key === 'ArrowRight') go(index + 1);
    else if (event.key === 'ArrowLeft') go(index - 1);
    else if (event.key === 'Backspace' || event.key === 'Delete')
      editing.mark(index, {
        finger: '',
        hand: undefined,
        stick: '',
        stroke: undefined,
        string: '',
        breath: false,
        difficult: false,
        sign: '',
      });
    else {
      const change = typedMark(event.key);
      if (!change) return;
      editing.mark(index, change);
      go(index + 1);
    }
    event.preventDefault();
    event.stopPropagation();
  };
  return (
    <Box position="relative" height="34px" width={`${system.width}px`} role="group" aria-label="Marks of the notes">
      {grid.events.slice(system.from, system.to).map((event, k) => {
        const index = system.from + k;
        const marks = event.notes.at(-1)?.marks ?? {};
        const words = markWords(marks);
        return (
          <Box
            as="button"
            key={event.notes[0]?.from ?? index}
            position="absolute"
            left={`${system.beatX(beatsNumber(event.at)) - 12}px`}
            width="24px"
            height="30px"
            fontSize="14px"
            border="1px solid"
            borderColor={index === current ? 'now' : words ? 'transparent' : 'rule'}
            borderRadius="control"
            data-mark={index}
            tabIndex={index === current ? 0 : -1}
            aria-label={`Note ${index + 1}: ${words || 'no mark'}`}
            onFocus={() => onReach(index)}
            onKeyDown={(pressed) => onKey(pressed, index)}
          >
            {words}
          </Box>
        );
      })}
    </Box>
  );
};
