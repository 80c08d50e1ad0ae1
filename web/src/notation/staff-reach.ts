import type { Clef, Grid, Pitch } from '@isochron/core/schema';
import { extent } from 'd3-array';
import { markOf } from './note-mark';

const LETTERS = 'CDEFGAB';
/** Steps of the scale, all octaves counted through from C0. */
export const stepsUp = ({ step, octave }: Pick<Pitch, 'step' | 'octave'>): number => 7 * octave + LETTERS.indexOf(step);
/** What stands on the lowest line of a staff, by its clef. */
const LOWEST_LINE: Record<Exclude<Clef, 'percussion'>, number> = {
  treble: stepsUp({ step: 'E', octave: 4 }),
  bass: stepsUp({ step: 'G', octave: 2 }),
  alto: stepsUp({ step: 'F', octave: 3 }),
  tenor: stepsUp({ step: 'D', octave: 3 }),
};
/** From the lowest of five lines to the highest. */
const STAFF_STEPS = 8;

/** A stem, in steps. */
const STEM_STEPS = 7;

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
  const line = LOWEST_LINE[clef];
  const own = events.flatMap(({ notes }) => notes.filter((note) => note.staff === staff));
  const [leading = 1, following = leading] = extent(own, ({ voice }) => voice);
  const reach = own.flatMap(({ pitch, voice }) => {
    if (!pitch) return [];
    const step = stepsUp(pitch) - line;
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
