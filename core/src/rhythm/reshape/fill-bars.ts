import type Fraction from 'fraction.js';
import { beats, writeBeats } from '../../schema/beats';
import { barStarts } from '../../schema/frame';
import type { Grid, GridEvent } from '../../schema/grid';
import { feltBeat, meterAt } from '../metric';

/** Where an event's longest note ends, in beats. */
export const endOf = (event: GridEvent): Fraction => {
  const at = beats(event.at);
  return event.notes.map((note) => at.add(beats(note.length))).reduce((last, one) => (one.compare(last) > 0 ? one : last));
};

/** An event of so many beats, with all its notes. */
export const lasting = (event: GridEvent, length: Fraction): GridEvent => ({
  ...event,
  length: writeBeats(length),
  notes: event.notes.map((note) => ({ ...note, length: writeBeats(length) })),
});

/**
 * Events in as many whole bars as they need, under the frame's meters (the last one goes on). The last event is held to the end of
 * its bar, so that the bars are full and the decision has time.
 */
export const fillBars = (frame: Omit<Grid, 'events' | 'bars'>, events: readonly GridEvent[]): Grid => {
  const last = events.at(-1) as GridEvent;
  // The landing needs no more than a beat.
  const beat = feltBeat(meterAt(frame, beats(last.at)), frame.beatUnit);
  const least = beats(last.at).add(beats(last.length).compare(beat) > 0 ? beat : beats(last.length));
  let bars = 1;
  let lines = barStarts({ ...frame, bars });
  const wanted = events
    .slice(0, -1)
    .map(endOf)
    .reduce((end, one) => (one.compare(end) > 0 ? one : end), least);
  while ((lines.at(-1) as Fraction).compare(wanted) < 0) {
    bars = Math.max(bars + 1, Math.min(2000, Math.ceil(bars * 1.5)));
    lines = barStarts({ ...frame, bars });
  }
  bars = lines.findIndex((line) => line.compare(wanted) >= 0);
  const end = lines[bars] as Fraction;
  const inside = <Change extends { at: string }>(changes: readonly Change[]) =>
    changes.filter((change) => beats(change.at).compare(end) < 0);
  return {
    ...frame,
    meters: inside(frame.meters),
    keys: inside(frame.keys),
    bars,
    events: [...events.slice(0, -1), lasting(last, end.sub(beats(last.at)))],
  };
};

/** The frame of a grid whose bars are counted anew from a downbeat: its first meter and key, no pickup. */
export const plainFrame = ({ events: _, bars: __, meters, keys, ...frame }: Grid): Omit<Grid, 'events' | 'bars'> => ({
  ...frame,
  pickup: '0',
  meters: meters.slice(0, 1),
  keys: keys.slice(0, 1),
});
