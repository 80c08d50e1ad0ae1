import type { NoteResult, Onset, SingleOnset } from '../schema/measures';

/** The times that an onset or a note may carry beyond its own. */
interface Carried {
  offS?: number;
  members?: SingleOnset[];
}

const shiftCarried = ({ offS, members }: Carried, byS: number): Carried => ({
  ...(offS === undefined ? {} : { offS: offS + byS }),
  ...(members === undefined ? {} : { members: members.map((member) => shiftOnset(member, byS)) }),
});

/** An onset `byS` seconds later: with its end, and every note of its chord. */
export const shiftOnset = <Kind extends Onset | SingleOnset>(onset: Kind, byS: number): Kind => ({
  ...onset,
  timeS: onset.timeS + byS,
  ...shiftCarried(onset, byS),
});

/** A note's result on a clock that reads `byS` seconds more; its deviation stays. */
export const shiftNote = (note: NoteResult, byS: number): NoteResult => ({
  ...note,
  expectedS: note.expectedS + byS,
  onsetS: note.onsetS === null ? null : note.onsetS + byS,
  ...shiftCarried(note, byS),
});
