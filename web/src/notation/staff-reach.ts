import { CLEFS, stepsUp } from '@isochron/core/material';
import type { Grid } from '@isochron/core/schema';
import { extent } from 'd3-array';
import { markOf } from './note-mark';

/** The letters of the notes, from C up. */
export const LETTERS = 'CDEFGAB';
/** From the lowest of five lines to the highest. */
const STAFF_STEPS = 8;

/** A stem, and what stands over a note or its stem, in steps. */
const STEM_STEPS = 7;
const SIGN_STEPS = 4;
const MIDDLE_STEP = 4;

/**
 * How many lines and spaces the written notes of a staff reach above and below its five lines; 0 where none does. Of several voices the
 * first one's stems go up whatever its notes are, the others' down.
 */
export const stepsBeyond = (
  { staves, events }: Pick<Grid, 'staves' | 'events'>,
  staff: number,
): { above: number; below: number } => {
  const clef = staves[staff - 1]?.clef ?? 'treble';
  // The parts of a kit have places in and beside the lines.
  if (clef === 'percussion') return { above: 0, below: 0 };
  const own = events.flatMap(({ notes }) => notes.filter((note) => note.staff === staff));
  const [leading = 1, following = leading] = extent(own, ({ voice }) => voice);
  const reach = own.flatMap(({ pitch, voice, printed }) => {
    if (!pitch) return [];
    const step = stepsUp(pitch) - stepsUp(CLEFS[printed?.clef ?? clef].lowest);
    const signs = [printed?.ornament, printed?.fermata].filter(Boolean).length;
    if (signs > 0)
      return [
        step,
        Math.max(STAFF_STEPS, step < MIDDLE_STEP || leading !== following ? step + STEM_STEPS : step) + SIGN_STEPS * signs,
      ];
    if (leading === following) return [step];
    return [step, voice === leading ? step + STEM_STEPS : step - STEM_STEPS];
  });
  const [least = 0, most = 0] = extent(reach);
  return { above: Math.max(0, most - STAFF_STEPS), below: Math.max(0, -least) };
};

/** The staves beside whose notes something is written, from 1. */
export const markedStaves = ({ staves, events }: Pick<Grid, 'staves' | 'events'>): number[] =>
  staves
    .map((_, k) => k + 1)
    .filter((staff) =>
      events.some(({ notes }) => notes.some((note) => note.staff === staff && markOf(note, staves.length === 1) !== '')),
    );
