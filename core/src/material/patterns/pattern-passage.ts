import { passageOf } from '../../rhythm/built-in-passages';
import { beats, writeBeats } from '../../schema/beats';
import type { MusicalInstrument } from '../../schema/instrument';
import type { Marks, Pitch } from '../../schema/notation';
import type { Passage } from '../../schema/passage';

/** One note of a pattern in the making. */
export interface PatternNote {
  pitch: Pitch | null;
  marks?: Marks;
  accent?: boolean;
  /** Lengths of the pattern's note that it lasts; 1 where nothing is said. */
  times?: number;
}

/** Notes of equal value, so many to the beat, in whole bars of four; the last is held to the end of its bar. */
export const patternPassage = (options: {
  id: string;
  title: string;
  about: string;
  instrument: MusicalInstrument;
  perBeat: number;
  fifths?: number;
  goalBpm: number;
  variant: string;
  notes: readonly PatternNote[];
  parameters: Record<string, unknown>;
  generator: string;
}): Passage => {
  const { instrument, perBeat, fifths = 0, notes, parameters, generator, ...rest } = options;
  const each = beats(`1/${perBeat}`);
  let at = beats(0);
  const placed = notes.map((note) => {
    const start = at;
    at = at.add(each.mul(note.times ?? 1));
    return { note, start };
  });
  const last = placed.at(-1)?.start ?? beats(0);
  const bars = Math.max(1, Math.floor(last.valueOf() / 4) + 1);
  const made = passageOf({
    ...rest,
    bars,
    staves: [{ clef: instrument.clefs[0] ?? 'treble' }],
    notes: placed.map(({ note, start }, k) => ({
      at: writeBeats(start),
      length: k === placed.length - 1 ? writeBeats(beats(4 * bars).sub(start)) : writeBeats(each.mul(note.times ?? 1)),
      pitch: note.pitch,
      staff: 1 as const,
      voice: 1,
      ...(note.accent ? { accent: true } : {}),
      ...(note.marks && Object.keys(note.marks).length ? { marks: note.marks } : {}),
    })),
  });
  return {
    ...made,
    keys: [{ at: '0', fifths }],
    instrumentId: instrument.id,
    ...(instrument.transposition ? { transposition: instrument.transposition } : {}),
    generator: { id: generator, parameters: parameters as never },
  };
};
