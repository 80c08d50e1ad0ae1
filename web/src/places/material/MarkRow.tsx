import { Box } from '@chakra-ui/react';
import type { NoteMove } from '@isochron/core/material';
import { beatsNumber, type Grid, type Marks } from '@isochron/core/schema';
import type { StripSystem } from '../../strip/strip-layout';
import { markWords, typedMark } from './typed-mark';

interface Props {
  grid: Grid;
  system: StripSystem;
  /** The event whose marks are in the tab order. */
  current: number;
  onReach(event: number): void;
  onMark(event: number, change: Partial<Marks>): void;
  onMove(event: number, move: NoteMove): void;
}

/** What moves a note, by `KeyboardEvent.key`: to the next step, with Shift by a semitone. */
const MOVES: Readonly<Record<string, readonly [plain: NoteMove, withShift: NoteMove]>> = {
  ArrowUp: ['step up', 'semitone up'],
  ArrowDown: ['step down', 'semitone down'],
};

/** Under each note a place for its marks: letters and digits are written into it, arrows go from note to note or move the note. */
export const MarkRow = ({ grid, system, current, onReach, onMark, onMove }: Props) => {
  const go = (to: number) => {
    const target = Math.max(0, Math.min(grid.events.length - 1, to));
    onReach(target);
    document.querySelector<HTMLElement>(`[data-mark="${target}"]`)?.focus();
  };
  const onKey = (event: React.KeyboardEvent, index: number) => {
    if (event.ctrlKey || event.metaKey || event.altKey) return;
    const moves = MOVES[event.key];
    if (moves) onMove(index, moves[event.shiftKey ? 1 : 0]);
    else if (event.key === 'ArrowRight') go(index + 1);
    else if (event.key === 'ArrowLeft') go(index - 1);
    else if (event.key === 'Backspace' || event.key === 'Delete')
      onMark(index, {
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
      onMark(index, change);
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
