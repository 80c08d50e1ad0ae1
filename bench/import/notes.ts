import { parseSmf } from '../../core/src/formats/parse-smf';
import { soundingNotes } from '../../core/src/formats/score/sounding-notes';
import { midiOf } from '../../core/src/rhythm/pitch';
import { beats } from '../../core/src/schema/beats';
import type { Passage } from '../../core/src/schema/passage';

/** One sounding note: where it begins and how long it is, in quarters from the first one written, and its MIDI pitch as it sounds. */
export interface Heard {
  at: number;
  length: number;
  midi: number;
}

/** The notes of a passage as they sound. */
export const notesOfPassage = (passage: Passage): Heard[] => {
  const quarters = beats(passage.beatUnit).mul(4).valueOf();
  const pickup = beats(passage.pickup).valueOf();
  return soundingNotes(passage).flatMap(({ note, at, length }) =>
    note.pitch
      ? [
          {
            at: (at.valueOf() + pickup) * quarters,
            length: length.valueOf() * quarters,
            midi: midiOf(note.pitch) + (passage.transposition ?? 0),
          },
        ]
      : [],
  );
};

/** A key that goes down or up, of one channel of one track. */
interface KeyEvent {
  line: string;
  tick: number;
  midi: number;
  isDown: boolean;
}

/** Each key that goes down with the next time that it goes up. */
const pressed = (events: readonly KeyEvent[], ticksPerQuarter: number): Heard[] => {
  const down = new Map<string, number[]>();
  return events.flatMap(({ line, tick, midi, isDown }): Heard[] => {
    const key = `${line}/${midi}`;
    const sounding = down.get(key) ?? [];
    down.set(key, sounding);
    if (isDown) sounding.push(tick);
    const from = isDown ? undefined : sounding.shift();
    return from === undefined ? [] : [{ at: from / ticksPerQuarter, length: (tick - from) / ticksPerQuarter, midi }];
  });
};

/** The notes of a MIDI file, of all tracks and channels. */
export const notesOfMidi = (bytes: Uint8Array): Heard[] => {
  const { header, tracks } = parseSmf(bytes);
  const events = tracks.flatMap((own, track) => {
    let tick = 0;
    return own.flatMap((event): KeyEvent[] => {
      tick += event.deltaTime;
      if (event.type !== 'noteOn' && event.type !== 'noteOff') return [];
      const isDown = event.type === 'noteOn' && event.velocity > 0;
      return [{ line: `${track}/${event.channel}`, tick, midi: event.noteNumber, isDown }];
    });
  });
  return pressed(events, header.ticksPerBeat ?? 480);
};

/** The notes of a MIDI file as midicsv prints it: track, tick, what, channel, key, velocity. */
export const notesOfCsv = (csv: string): Heard[] => {
  const lines = csv.split('\n').map((line) => line.split(',').map((cell) => cell.trim()));
  const events = lines.flatMap(([track, tick, what, channel, key, velocity]): KeyEvent[] =>
    what === 'Note_on_c' || what === 'Note_off_c'
      ? [
          {
            line: `${track}/${channel}`,
            tick: Number(tick),
            midi: Number(key),
            isDown: what === 'Note_on_c' && Number(velocity) > 0,
          },
        ]
      : [],
  );
  return pressed(events, Number(lines.find(([, , what]) => what === 'Header')?.[5] ?? 480));
};

/** What two readers of one file have in common, and each alone. */
export interface Compared {
  both: number;
  /** Of those in both: which have another length, by more than an articulation makes, and that length. */
  lengths: (Heard & { theirs: number })[];
  onlyOurs: Heard[];
  onlyTheirs: Heard[];
}

/** Two readers may round a tuplet by so much, in quarters, and one of them breaks chords a little. */
const NEAR = 0.1;

/** Notes that begin at one place with one pitch are the same, each once; where both begin is laid together. */
export const compared = (ours: readonly Heard[], theirs: readonly Heard[]): Compared => {
  const left = [...theirs].sort((a, b) => a.at - b.at);
  const onlyOurs: Heard[] = [];
  let both = 0;
  const lengths: Compared['lengths'] = [];
  for (const one of [...ours].sort((a, b) => a.at - b.at)) {
    const k = left.findIndex(({ at, midi }) => midi === one.midi && Math.abs(at - one.at) < NEAR);
    if (k < 0) {
      onlyOurs.push(one);
      continue;
    }
    both += 1;
    const [found] = left.splice(k, 1);
    // A staccato note sounds half as long as it is written; notes that lie on one pitch in two voices sound once.
    if (found && (found.length > 1.1 * one.length || found.length < 0.4 * one.length))
      lengths.push({ ...one, theirs: found.length });
  }
  return { both, lengths, onlyOurs, onlyTheirs: left };
};
