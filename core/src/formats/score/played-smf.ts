import { type MidiEvent, writeMidi } from 'midi-file';
import type { SingleOnset } from '../../schema/measures';

const TICKS = 480;
/** How long a note lasts of which nothing says when it ended, in beats. */
const UNENDED = 0.5;
/** Notes this much before the first beat are its own, a little early; others before it are left out. */
const EARLY_BEATS = 0.25;

/** Notes as they were played against a click, times from its first beat, as a Standard MIDI File of quarters at a tempo and meter. */
export const playedSmf = (notes: readonly SingleOnset[], bpm: number, meter: { count: number; unit: 4 | 8 }): Uint8Array => {
  // The click counts quarters; under eighths, dotted ones.
  const quartersABeat = meter.unit === 8 ? 1.5 : 1;
  const tickOf = (timeS: number) => Math.max(0, Math.round((timeS * bpm * quartersABeat * TICKS) / 60));
  const events = notes
    .filter(({ timeS }) => timeS > (-EARLY_BEATS * 60) / bpm)
    .flatMap(({ timeS, offS, pitch = 60 }) => {
      const noteNumber = Math.min(127, Math.max(0, Math.round(pitch)));
      const start = tickOf(timeS);
      const end = Math.max(start + 10, tickOf(offS ?? timeS + (UNENDED * 60) / bpm));
      return [
        { tick: start, type: 'noteOn' as const, channel: 0, noteNumber, velocity: 80 },
        { tick: end, type: 'noteOff' as const, channel: 0, noteNumber, velocity: 0 },
      ];
    })
    .sort((a, b) => a.tick - b.tick || Number(b.type === 'noteOff') - Number(a.type === 'noteOff'));
  let last = 0;
  const track: MidiEvent[] = [
    { deltaTime: 0, type: 'setTempo', microsecondsPerBeat: Math.round(60_000_000 / (bpm * quartersABeat)) },
    { deltaTime: 0, type: 'timeSignature', numerator: meter.count, denominator: meter.unit, metronome: 24, thirtyseconds: 8 },
  ];
  for (const { tick, ...event } of events) {
    track.push({ ...event, deltaTime: tick - last } as MidiEvent);
    last = tick;
  }
  track.push({ deltaTime: 0, type: 'endOfTrack' });
  return Uint8Array.from(writeMidi({ header: { format: 0, numTracks: 1, ticksPerBeat: TICKS }, tracks: [track] }));
};
