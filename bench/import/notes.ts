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

/** The notes of a MIDI file, of all tracks and channels. */
export const notesOfMidi = (bytes: Uint8Array): Heard[] => {
  const { header, tracks } = parseSmf(bytes);
  const quarter = header.ticksPerBeat ?? 480;
  return tracks.flatMap((events) => {
    let tick = 0;
    const open = new Map<string, { at: number; midi: number }[]>();
    const notes: Heard[] = [];
    for (const event of events) {
      tick += event.deltaTime;
      if (event.type !== 'noteOn' && event.type !== 'noteOff') continue;
      const key = `${event.channel}/${event.noteNumber}`;
      if (event.type === 'noteOn' && event.velocity > 0)
        open.set(key, [...(open.get(key) ?? []), { at: tick, midi: event.noteNumber }]);
      else {
        const first = open.get(key)?.shift();
        if (first) notes.push({ at: first.at / quarter, length: (tick - first.at) / quarter, midi: first.midi });
      }
    }
    return notes;
  });
};

/** The notes of a MIDI file as midicsv prints it: track, tick, what, channel, key, velocity. */
export const notesOfCsv = (csv: string): Heard[] => {
  const lines = csv.split('\n').map((line) => line.split(',').map((cell) => cell.trim()));
  const quarter = Number(lines.find(([, , what]) => what === 'Header')?.[5] ?? 480);
  const open = new Map<string, number[]>();
  const notes: Heard[] = [];
  for (const [track, tick, what, channel, key, velocity] of lines) {
    if (what !== 'Note_on_c' && what !== 'Note_off_c') continue;
    const name = `${track}/${channel}/${key}`;
    const sounding = open.get(name) ?? [];
    open.set(name, sounding);
    if (what === 'Note_on_c' && Number(velocity) > 0) sounding.push(Number(tick));
    else {
      const from = sounding.shift();
      if (from !== undefined) notes.push({ at: from / quarter, length: (Number(tick) - from) / quarter, midi: Number(key) });
    }
  }
  return notes;
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
