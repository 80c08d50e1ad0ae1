import { type MidiEvent, writeMidi } from 'midi-file';
import { midiOf } from '../../rhythm/pitch';
import { beats } from '../../schema/beats';
import type { Passage } from '../../schema/passage';
import { soundingNotes } from './sounding-notes';
import { commonDenominator } from './written-values';

/** More ticks a quarter than this a file cannot say. */
const MAX_TICKS = 32_767;
const USUAL_TICKS = 480;
const UNPITCHED = 60;
const VELOCITY = 80;
const ACCENTED = 104;

/**
 * Writes a passage as a Standard MIDI File, tied notes as one, a track a staff. Places and lengths are exact: a quarter has as many
 * ticks as the notes need (10 080 where that is more than a file can say). A pickup stands before the first whole bar in a bar of its own.
 */
export const writeSmfScore = (passage: Passage): Uint8Array => {
  const unit = beats(passage.beatUnit).mul(4);
  const pickup = beats(passage.pickup);
  const notes = soundingNotes(passage);
  const places = notes.flatMap(({ at, length }) => [at.add(pickup).mul(unit), length.mul(unit)]);
  const changes = [...passage.meters, ...passage.keys].map(({ at }) => beats(at).add(pickup).mul(unit));
  const needed = commonDenominator([...places, ...changes, pickup.mul(unit)]);
  const least = needed * Math.max(1, Math.ceil(24 / needed));
  // A multiple that other programs use as well: of few ticks it could not be told whether they were written or played.
  const ticksPerBeat = least <= MAX_TICKS / 2 ? least * Math.ceil(USUAL_TICKS / least) : 10_080;
  const tickOf = (quarters: ReturnType<typeof beats>) => Math.round(quarters.mul(ticksPerBeat).valueOf());
  const atTick = (at: string) => tickOf(beats(at).add(pickup).mul(unit));

  const head: { tick: number; event: Omit<MidiEvent, 'deltaTime'> & Record<string, unknown> }[] = [
    { tick: 0, event: { type: 'trackName', text: passage.title } },
    { tick: 0, event: { type: 'setTempo', microsecondsPerBeat: Math.round(60_000_000 / (passage.goalBpm * unit.valueOf())) } },
  ];
  const [first] = passage.meters;
  if (pickup.compare(0) > 0 && first) {
    const inside = pickup.mul(unit).div(4);
    const length = [4, 8, 16, 32].map((part) => ({ part, count: inside.mul(part) })).find(({ count }) => count.d === 1n);
    if (length)
      head.push({
        tick: 0,
        event: {
          type: 'timeSignature',
          numerator: Number(length.count.n),
          denominator: length.part,
          metronome: 24,
          thirtyseconds: 8,
        },
      });
  }
  for (const meter of passage.meters)
    head.push({
      tick: atTick(meter.at),
      event: { type: 'timeSignature', numerator: meter.count, denominator: meter.unit, metronome: 24, thirtyseconds: 8 },
    });
  for (const key of passage.keys)
    head.push({ tick: key.at === '0' ? 0 : atTick(key.at), event: { type: 'keySignature', key: key.fifths, scale: 0 } });

  const tracks = passage.staves.map((_, staff) =>
    notes
      .filter(({ note }) => note.staff === staff + 1)
      .flatMap(({ note, at, length }) => {
        const noteNumber = Math.min(
          127,
          Math.max(0, note.pitch ? midiOf(note.pitch) + (passage.transposition ?? 0) : UNPITCHED),
        );
        const tick = tickOf(at.add(pickup).mul(unit));
        return [
          { tick, event: { type: 'noteOn', channel: staff, noteNumber, velocity: note.accent ? ACCENTED : VELOCITY } },
          { tick: tick + tickOf(length.mul(unit)), event: { type: 'noteOff', channel: staff, noteNumber, velocity: 0 } },
        ];
      }),
  );
  const asTrack = (events: readonly { tick: number; event: { type: string } }[]): MidiEvent[] => {
    let last = 0;
    const ordered = [...events].sort(
      (a, b) => a.tick - b.tick || Number(b.event.type === 'noteOff') - Number(a.event.type === 'noteOff'),
    );
    const track = ordered.map(({ tick, event }) => {
      const made = { deltaTime: tick - last, ...event } as MidiEvent;
      last = tick;
      return made;
    });
    return [...track, { deltaTime: 0, type: 'endOfTrack' } as MidiEvent];
  };
  const written = [asTrack(head as { tick: number; event: { type: string } }[]), ...tracks.map(asTrack)];
  return Uint8Array.from(writeMidi({ header: { format: 1, numTracks: written.length, ticksPerBeat }, tracks: written }));
};
