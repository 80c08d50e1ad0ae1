import { Box } from '@chakra-ui/react';
import { beatsNumber, type Grid, type GridEvent } from '@isochron/core/schema';
import { flushSync } from 'react-dom';
import type { StripSystem } from '../../strip/strip-layout';
import { focusFrom, markSelector } from './mark-places';
import { noteKey } from './note-keys';
import { markWords, typedMark } from './typed-mark';
import type { NoteEditing } from './use-note-editing';

interface Props {
  grid: Grid;
  system: StripSystem;
  /** Whose notes are marked here. */
  staff: number;
  /** The event whose marks are in the tab order. */
  current: number;
  onReach(event: number): void;
  editing: NoteEditing;
}

const STAFF_NAMES = ['upper', 'lower'] as const;

/** Under each note of a staff a place for its marks: letters and digits are written into it, arrows go from note to note or move the note, letters edit it. */
export const MarkRow = ({ grid, system, staff, current, onReach, editing }: Props) => {
  const isOneOfTwo = grid.staves.length > 1;
  const noteOf = (event: GridEvent) => event.notes.findLast((note) => note.staff === staff);
  const own = grid.events.flatMap((event, index) => (noteOf(event) ? [index] : []));
  // Where the other hand alone plays, the next note of this one can be reached.
  const reachable = own.find((index) => index >= current) ?? own.at(-1);
  const go = (from: number, by: 1 | -1) => {
    const target = own[own.indexOf(from) + by];
    if (target === undefined) return;
    onReach(target);
    document.querySelector<HTMLElement>(markSelector({ staff, event: target }))?.focus();
  };
  const onKey = (event: React.KeyboardEvent, index: number) => {
    const place = event.currentTarget;
    const action = noteKey(event);
    if (action) {
      // Drawn before the next key comes, which goes to where the focus is then.
      flushSync(() => editing.act(index, staff, action));
      if (!place.isConnected) focusFrom({ staff, event: index });
    } else if (event.ctrlKey || event.metaKey || event.altKey) return;
    else if (event.key === 'ArrowRight') go(index, 1);
    else if (event.key === 'ArrowLeft') go(index, -1);
    else if (event.key === 'Backspace' || event.key === 'Delete')
      editing.mark(index, staff, {
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
      editing.mark(index, staff, change);
      go(index, 1);
    }
    event.preventDefault();
    event.stopPropagation();
  };
  return (
    <Box
      position="relative"
      height="34px"
      width={`${system.width}px`}
      role="group"
      aria-label={isOneOfTwo ? `Marks of the notes, ${STAFF_NAMES[staff - 1]} staff` : 'Marks of the notes'}
    >
      {grid.events.slice(system.from, system.to).map((event, k) => {
        const index = system.from + k;
        const note = noteOf(event);
        if (!note) return null;
        const words = markWords(note.marks);
        return (
          <Box
            as="button"
            key={note.from}
            position="absolute"
            left={`${system.beatX(beatsNumber(event.at)) - 12}px`}
            width="24px"
            height="30px"
            fontSize="14px"
            border="1px solid"
            borderColor={index === reachable ? 'now' : words ? 'transparent' : 'rule'}
            borderRadius="control"
            data-mark={`${staff}/${index}`}
            tabIndex={index === reachable ? 0 : -1}
            aria-label={`Note ${index + 1}${isOneOfTwo ? `, ${STAFF_NAMES[staff - 1]} staff` : ''}: ${words || 'no mark'}`}
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
