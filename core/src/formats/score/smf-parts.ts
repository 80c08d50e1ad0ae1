import { pairs, rollup } from 'd3-array';
import type { MidiEvent } from 'midi-file';
import { type ScorePart, toldApart } from './score-parts';

/** A note of a track, in ticks. */
export interface SmfNote {
  tick: number;
  end: number;
  pitch: number;
  track: number;
  channel: number;
}

/** Every note of the tracks, with where it begins and ends in ticks. */
export const notesOf = (tracks: readonly MidiEvent[][]): SmfNote[] =>
  tracks.flatMap((events, track) => {
    let tick = 0;
    const open = new Map<string, SmfNote[]>();
    const notes: SmfNote[] = [];
    for (const event of events) {
      tick += event.deltaTime;
      if (event.type !== 'noteOn' && event.type !== 'noteOff') continue;
      const key = `${event.channel}/${event.noteNumber}`;
      if (event.type === 'noteOn' && event.velocity > 0) {
        const note = { tick, end: tick, pitch: event.noteNumber & 127, track, channel: event.channel };
        notes.push(note);
        const sounding = open.get(key);
        if (sounding) sounding.push(note);
        else open.set(key, [note]);
      } else {
        const first = open.get(key)?.shift();
        if (first) first.end = tick;
      }
    }
    for (const note of [...open.values()].flat()) note.end = tick;
    return notes.filter((note) => note.end > note.tick);
  });

/** The channel of drums in General MIDI, from 0. */
export const DRUM_CHANNEL = 9;

/** The notes of one channel of one track, or of two of them as two staves. */
export interface SmfPart extends ScorePart {
  /** Its staves, the upper one first. */
  staves: readonly { track: number; channel: number }[];
}

/** What a track is called; undefined where it has no name. */
export const trackName = (events: readonly MidiEvent[]): string | undefined => {
  const named = events.find(({ type }) => type === 'trackName');
  return named?.type === 'trackName' ? named.text.trim() : undefined;
};

/** What a part of a file is called: a track without notes names the whole, any other itself. */
export const titleOf = (tracks: readonly MidiEvent[][], notes: readonly SmfNote[], { staves }: SmfPart): string => {
  const named = tracks.flatMap((events, track) => {
    const text = trackName(events);
    return text === undefined ? [] : [{ track, text }];
  });
  const sounding = new Set(notes.map(({ track }) => track));
  const ofWhole = named.find(({ track }) => !sounding.has(track));
  const own = named.find(({ track }) => staves.some((staff) => staff.track === track));
  return (ofWhole ?? own ?? named[0])?.text ?? '';
};

/** Whether a note is of a staff. */
export const isOf = ({ track, channel }: SmfNote, staff: SmfPart['staves'][number] | undefined): boolean =>
  track === staff?.track && channel === staff.channel;

/** What can be taken of a file: two neighbouring staves together where neither is of drums, and each channel of each track by itself. */
export const partsIn = (notes: readonly SmfNote[], tracks: readonly MidiEvent[][]): SmfPart[] => {
  const counts = rollup(
    notes,
    (own) => own.length,
    ({ track, channel }) => `${track}/${channel}`,
  );
  const staves = [...counts]
    .map(([key, count]) => {
      const [track = 0, channel = 0] = key.split('/').map(Number);
      return { track, channel, count };
    })
    .sort((a, b) => a.track - b.track || a.channel - b.channel);
  const channels = rollup(
    staves,
    (own) => own.length,
    ({ track }) => track,
  );
  const single = toldApart(
    staves.map(({ track, channel, count }): SmfPart => {
      const of = trackName(tracks[track] ?? []) || `track ${track + 1}`;
      const name =
        (channels.get(track) ?? 1) > 1 ? `${of}, ${channel === DRUM_CHANNEL ? 'drums' : `channel ${channel + 1}`}` : of;
      return { id: `${track}/${channel}`, name, notes: count, staves: [{ track, channel }] };
    }),
  );
  const isDrums = (part: SmfPart) => part.staves.some(({ channel }) => channel === DRUM_CHANNEL);
  const both = pairs(single, (upper, lower) => [upper, lower] as const)
    .filter((two) => !two.some(isDrums))
    .map(
      ([upper, lower]): SmfPart => ({
        id: `${upper.id}+${lower.id}`,
        name: `${upper.name} and ${lower.name}, as two staves`,
        notes: upper.notes + lower.notes,
        staves: [...upper.staves, ...lower.staves],
      }),
    );
  // Two tracks are most often two hands.
  const [first] = both;
  return first && single[0] && first.id.startsWith(`${single[0].id}+`)
    ? [first, ...single, ...both.slice(1)]
    : [...single, ...both];
};
