import { range } from 'd3-array';
import { z } from 'zod';
import { beats, writeBeats } from '../../schema/beats';
import type { GridEvent, GridNote } from '../../schema/grid';
import { withLine } from '../line';
import { midiOf } from '../pitch';
import { endOf } from '../reshape/fill-bars';
import { numberField } from './fields';
import { makeDrill } from './make-drill';
import type { Method } from './method';

const Parameters = z.object({ size: z.number().int().min(2).max(6).default(4) });

const height = ({ pitch }: GridNote) => (pitch ? midiOf(pitch) : 0);

/** The notes of several events, each pitch of a staff once, from the lowest up. */
const asChord = (events: readonly GridEvent[], length: string): GridNote[] => {
  const notes = new Map<string, GridNote>();
  for (const note of events.flatMap((event) => event.notes)) {
    const key = `${height(note)}/${note.staff}`;
    const { articulation: _, slur: __, ...plain } = note;
    if (!notes.has(key)) notes.set(key, { ...plain, length });
  }
  return [...notes.values()].sort((a, b) => height(a) - height(b));
};

/** The events of a line in groups, each struck at once and held to the next. */
const inBlocks = (line: readonly GridEvent[], size: number): GridEvent[] => {
  const groups = range(0, line.length, size).map((from) => line.slice(from, from + size));
  return groups.map((group, k): GridEvent => {
    const first = group[0] as GridEvent;
    const next = groups[k + 1]?.[0];
    const end = next ? beats(next.at) : endOf(group.at(-1) as GridEvent);
    const length = writeBeats(end.sub(beats(first.at)));
    return { at: first.at, length, accent: first.accent, notes: asChord(group, length) };
  });
};

/** Each group of the leading voice struck together as one chord, over the others as they are written: the hand learns its shape before the notes follow one another. */
export const BLOCKS: Method<z.infer<typeof Parameters>> = {
  id: 'blocks',
  name: 'Blocks',
  about: 'Each group struck at once as one chord, so that the hand knows its shape before the notes come one by one.',
  category: 'learn',
  stage: 'anew',
  needs: 'several-notes',
  keepsOthers: true,
  parameters: Parameters,
  fields: [numberField('size', 'Notes in a block', [2, 3, 4, 5, 6])],
  drills: (grid, parameters) => {
    const { size } = parameters;
    return [
      makeDrill(
        'blocks',
        parameters,
        withLine(grid, (line) => inBlocks(line, size)),
        { size },
      ),
    ];
  },
};
