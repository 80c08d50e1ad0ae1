import { least } from 'd3-array';
import { type MidiEvent, writeMidi } from 'midi-file';
import type { SingleOnset } from '../../schema/measures';

/** Twice a prime: what was played lies at a place of written music by chance alone on the beat and in its middle. */
const TICKS = 998;
/** How long a note lasts of which nothing says when it ended, in beats. */
const UNENDED = 0.5;
/** Notes this much before the first beat are its own, a little early; earlier ones are an upbeat. */
const EARLY_BEATS = 0.25;

/** What a player played in against a click. */
export interface PlayedIn {
  /** Times from the first beat after the count-in. */
  notes: readonly SingleOnset[];
  /** Of the click: quarters, half notes under halves, dotted quarters under eighths in threes, eighths otherwise. */
  bpm: number;
  meter: { count: number; unit: 2 | 4 | 8 };
  /** The lowest key of the right hand, by MIDI, where the hands are told apart; null for one staff. */
  splitAt?: number | null;
}

/** How many quarters the click's beat lasts. */
const quartersABeat = ({ count, unit }: PlayedIn['meter']): number => {
  if (unit !== 8) return 4 / unit;
  return count % 3 === 0 && count > 3 ? 1.5 : 0.5;
};

/** Beats of the click in a bar. */
export const clicksInBar = (meter: PlayedIn['meter']): number => (meter.count * 4) / meter.unit / quartersABeat(meter);

/** The beats that an upbeat takes: 0 where nothing was played before the first beat. */
const upbeatBeats = ({ notes, bpm, meter }: PlayedIn): number => {
  const first = least(notes.map(({ timeS }) => (timeS * bpm) / 60)) ?? 0;
  const beats = first < -EARLY_BEATS ? Math.ceil(-first - EARLY_BEATS) : 0;
  return Math.min(beats, clicksInBar(meter));
};

const meterEvent = (count: number, unit: number): Omit<MidiEvent, 'deltaTime'> =>
  ({ type: 'timeSignature', numerator: count, denominator: unit, metronome: 24, thirtyseconds: 8 }) as MidiEvent;

/**
 * Notes as they were played against a click, as a Standard MIDI File at a tempo and meter: an upbeat of half a bar at most as a short first
 * bar, a longer one within a whole bar before; hands as two tracks.
 */
export const playedSmf = (played: PlayedIn): Uint8Array => {
  const { notes, bpm, meter, splitAt = null } = played;
  const quarters = quartersABeat(meter);
  const upbeat = upbeatBeats(played);
  const inBar = clicksInBar(meter);
  const isShort = upbeat > 0 && 2 * upbeat <= inBar;
  const beatsBefore = upbeat === 0 ? 0 : isShort ? upbeat : inBar;
  const beatTicks = TICKS * quarters;
  const tickOf = (timeS: number) => Math.max(0, Math.round(((timeS * bpm) / 60 + beatsBefore) * beatTicks));
  const earliestS = ((-beatsBefore - EARLY_BEATS) * 60) / bpm;
  const heads = [
    { tick: 0, event: { type: 'setTempo', microsecondsPerBeat: Math.round(60_000_000 / (bpm * quarters)) } as MidiEvent },
    ...(isShort ? [{ tick: 0, event: meterEvent((upbeat * quarters * meter.unit) / 4, meter.unit) }] : []),
    { tick: isShort ? upbeat * beatTicks : 0, event: meterEvent(meter.count, meter.unit) },
  ];
  const trackOf = (own: readonly SingleOnset[], before: typeof heads): MidiEvent[] => {
    const events = own
      .filter(({ timeS }) => timeS > earliestS)
      .flatMap(({ timeS, offS, pitch = 60 }) => {
        const noteNumber = Math.min(127, Math.max(0, Math.round(pitch)));
        const start = tickOf(timeS);
        const end = Math.max(start + 10, tickOf(offS ?? timeS + (UNENDED * 60) / bpm));
        return [
          { tick: start, event: { type: 'noteOn' as const, channel: 0, noteNumber, velocity: 80 } },
          { tick: end, event: { type: 'noteOff' as const, channel: 0, noteNumber, velocity: 0 } },
        ];
      });
    const inOrder = [...before, ...events].sort(
      (a, b) => a.tick - b.tick || Number(b.event.type === 'noteOff') - Number(a.event.type === 'noteOff'),
    );
    const track = inOrder.map(
      ({ tick, event }, k) => ({ ...event, deltaTime: tick - (inOrder[k - 1]?.tick ?? 0) }) as MidiEvent,
    );
    return [...track, { deltaTime: 0, type: 'endOfTrack' } as MidiEvent];
  };
  const isLower = ({ pitch = 60 }: SingleOnset) => splitAt !== null && Math.round(pitch) < splitAt;
  const hands = [notes.filter((note) => !isLower(note)), notes.filter(isLower)].filter((own) => own.length > 0);
  const tracks = hands.map((own, k) => trackOf(own, k === 0 ? heads : []));
  return Uint8Array.from(
    writeMidi({ header: { format: tracks.length > 1 ? 1 : 0, numTracks: tracks.length, ticksPerBeat: TICKS }, tracks }),
  );
};
