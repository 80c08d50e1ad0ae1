import { beats, writeBeats } from '../schema/beats';
import type { Grid, GridEvent, GridNote } from '../schema/grid';
import { midiOf } from './pitch';

/** What a note belongs to: the voice of its staff. */
export const voiceOf = ({ staff, voice }: GridNote): string => `${staff}/${voice}`;

/** The voice that has most of the notes' beginnings, the upper one of two that have as many: what is worked on where there are several. */
export const leadingVoice = ({ events }: Pick<Grid, 'events'>): string => {
  const counts = new Map<string, number>();
  for (const { notes } of events)
    for (const voice of new Set(notes.map(voiceOf))) counts.set(voice, (counts.get(voice) ?? 0) + 1);
  const [[leading] = ['1/1']] = [...counts].sort(([a, most], [b, other]) => other - most || (a < b ? -1 : 1));
  return leading;
};

/** Whether an event has a note of a voice. */
export const hasVoice = ({ notes }: GridEvent, voice: string): boolean => notes.some((note) => voiceOf(note) === voice);

/** The events, by their index, at which the leading voice has a note: all of them where there is one voice. */
export const lineOf = (grid: Pick<Grid, 'events'>): number[] => {
  const voice = leadingVoice(grid);
  return grid.events.flatMap((event, k) => (hasVoice(event, voice) ? [k] : []));
};

const shortest = (notes: readonly GridNote[]): string =>
  writeBeats(notes.map(({ length }) => beats(length)).reduce((least, one) => (one.compare(least) < 0 ? one : least)));

/** An event with some of its notes; none where it has none of them. */
const withNotes = (event: GridEvent, notes: GridNote[]): GridEvent[] =>
  notes.length > 0 ? [{ ...event, notes, length: shortest(notes) }] : [];

/** Events taken apart: what a voice has of them, and what the others have. */
const byVoice = (events: readonly GridEvent[], voice: string): [own: GridEvent[], others: GridEvent[]] => [
  events.flatMap((event) =>
    withNotes(
      event,
      event.notes.filter((note) => voiceOf(note) === voice),
    ),
  ),
  events.flatMap((event) =>
    withNotes(
      event,
      event.notes.filter((note) => voiceOf(note) !== voice),
    ),
  ),
];

const height = ({ pitch }: GridNote) => (pitch ? midiOf(pitch) : 0);

/** Events of several voices put together: what begins at one moment is one event again, its notes from the lowest up. */
const merged = (events: readonly GridEvent[]): GridEvent[] => {
  const at = new Map<string, GridEvent>();
  for (const event of events) {
    const there = at.get(event.at);
    const notes = [...(there?.notes ?? []), ...event.notes].sort((a, b) => height(a) - height(b));
    at.set(
      event.at,
      there ? { ...event, ...there, accent: there.accent || event.accent, notes, length: shortest(notes) } : event,
    );
  }
  return [...at.values()].sort((a, b) => beats(a.at).compare(beats(b.at)));
};

/** A grid in which the leading voice's events are others; what the other voices have stays as it is. */
export const withLine = (grid: Grid, changed: (line: GridEvent[]) => GridEvent[]): Grid => {
  const [line, others] = byVoice(grid.events, leadingVoice(grid));
  return { ...grid, events: merged([...changed(line), ...others]) };
};

/** A grid of the leading voice alone. */
export const lineAlone = (grid: Grid): Grid => ({ ...grid, events: byVoice(grid.events, leadingVoice(grid))[0] });
