import { type MidiData, type MidiEvent, writeMidi } from 'midi-file';
import { AppError } from '../schema/app-error';
import type { Onset, SingleOnset } from '../schema/measures';
import { dbVelocity, velocityDb } from './midi-message';
import { parseSmf } from './parse-smf';

/** A file that cannot be read, with a message that says what is wrong and what to do. */
export class UnreadableMidi extends AppError {}

/** Ticks a quarter note in files written here, at half a second each: 0.05 ms a tick. */
const WRITTEN_TICKS = 9600;
const WRITTEN_TEMPO_US = 500_000;
const UNPITCHED = 60;

interface TimedEvent {
  tick: number;
  event: MidiEvent;
}

const merged = (tracks: readonly MidiEvent[][]): TimedEvent[] =>
  tracks
    .flatMap((track) => {
      let tick = 0;
      return track.map((event) => {
        tick += event.deltaTime;
        return { tick, event };
      });
    })
    .sort((a, b) => a.tick - b.tick);

const DAMAGED = 'This is not a Standard MIDI File, or it is damaged. Export it again as .mid and try once more.';

const parsed = (bytes: Uint8Array): MidiData => {
  let file: MidiData;
  try {
    file = parseSmf(bytes);
  } catch {
    throw new UnreadableMidi(DAMAGED);
  }
  if (file.tracks.length === 0) throw new UnreadableMidi(DAMAGED);
  return file;
};

/**
 * The notes of a Standard MIDI File, in order of time, with pitch, level and note-off; all tracks and channels together.
 * Tempo changes are followed. Throws `UnreadableMidi`.
 */
export const readSmf = (bytes: Uint8Array): SingleOnset[] => {
  const file = parsed(bytes);
  const { ticksPerBeat, ticksPerFrame, framesPerSecond } = file.header;
  if (!ticksPerBeat && !(ticksPerFrame && framesPerSecond))
    throw new UnreadableMidi('This MIDI file does not say how fast its ticks run. Export it again and try once more.');
  let secondsPerTick = ticksPerBeat ? 0.5 / ticksPerBeat : 1 / ((ticksPerFrame ?? 1) * (framesPerSecond ?? 1));
  let timeS = 0;
  let lastTick = 0;
  const notes: SingleOnset[] = [];
  const sounding = new Map<string, SingleOnset>();
  for (const { tick, event } of merged(file.tracks)) {
    timeS += (tick - lastTick) * secondsPerTick;
    lastTick = tick;
    if (event.type === 'setTempo' && ticksPerBeat) secondsPerTick = event.microsecondsPerBeat / 1e6 / ticksPerBeat;
    if (event.type !== 'noteOn' && event.type !== 'noteOff') continue;
    const key = `${event.channel}/${event.noteNumber}`;
    const ringing = sounding.get(key);
    if (ringing) ringing.offS = timeS;
    sounding.delete(key);
    if (event.type === 'noteOff' || event.velocity === 0) continue;
    const note: SingleOnset = { timeS, levelDb: velocityDb(event.velocity), pitch: event.noteNumber };
    notes.push(note);
    sounding.set(key, note);
  }
  if (notes.length === 0) throw new UnreadableMidi('There are no notes in this MIDI file. Choose another one.');
  return notes;
};

/** How long a note is written where nothing says when it ended. */
const SHORT_S = 0.1;

/** Writes onsets as a Standard MIDI File of one track: times to 0.05 ms, levels as velocities. Chords by their notes. */
export const writeSmf = (onsets: readonly Onset[]): Uint8Array => {
  const ticksOf = (seconds: number) => Math.round((seconds * 1e6 * WRITTEN_TICKS) / WRITTEN_TEMPO_US);
  const singles = onsets.flatMap((onset) => onset.members ?? [onset]);
  const events = singles
    .flatMap(({ timeS, levelDb, pitch = UNPITCHED, offS = timeS + SHORT_S }) => {
      const noteNumber = Math.min(127, Math.max(0, Math.round(pitch)));
      return [
        { tick: ticksOf(timeS), type: 'noteOn' as const, noteNumber, velocity: dbVelocity(levelDb) },
        { tick: Math.max(ticksOf(offS), ticksOf(timeS) + 1), type: 'noteOff' as const, noteNumber, velocity: 0 },
      ];
    })
    .sort((a, b) => a.tick - b.tick || (a.type === 'noteOff' ? -1 : 1));
  let last = 0;
  const track: MidiEvent[] = [{ deltaTime: 0, type: 'setTempo', microsecondsPerBeat: WRITTEN_TEMPO_US }];
  for (const { tick, ...event } of events) {
    track.push({ deltaTime: tick - last, channel: 0, ...event });
    last = tick;
  }
  track.push({ deltaTime: 0, type: 'endOfTrack' });
  return Uint8Array.from(writeMidi({ header: { format: 0, numTracks: 1, ticksPerBeat: WRITTEN_TICKS }, tracks: [track] }));
};
