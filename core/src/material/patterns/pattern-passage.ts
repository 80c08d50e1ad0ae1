import { passageOf } from '../../rhythm/built-in-passages';
import { beats, writeBeats } from '../../schema/beats';
import type { MusicalInstrument } from '../../schema/instrument';
import type { Hand, Marks, Pitch, Printed } from '../../schema/notation';
import type { Passage } from '../../schema/passage';
import { beatsInBar, PATTERN_METERS, type PatternMeter } from './pattern-frame';

/** One note of a pattern in the making. */
export interface PatternNote {
  pitch: Pitch | null;
  /** What sounds with it, in the same voice. */
  with?: Pitch;
  marks?: Marks;
  accent?: boolean;
  printed?: Printed;
  /** Lengths of the pattern's note that it lasts; 1 where nothing is said. */
  times?: number;
  /** How many grace notes lead to it, and by which hand. */
  graces?: { count: number; hand: Hand };
}

/** Notes of equal value, so many to the beat, in whole bars; the last is held to the end of its bar. */
export const patternPassage = (options: {
  id: string;
  title: string;
  about: string;
  instrument: MusicalInstrument;
  perBeat: number;
  /** The bars it stands in; of four quarters where nothing is said. */
  meter?: PatternMeter;
  fifths?: number;
  goalBpm: number;
  variant: string;
  notes: readonly PatternNote[];
  /** What a lower staff has at the same places, for instruments of two staves. */
  lower?: readonly PatternNote[];
  parameters: Record<string, unknown>;
  generator: string;
}): Passage => {
  const { instrument, perBeat, meter = '4/4', fifths = 0, notes, lower, parameters, generator, ...rest } = options;
  const { count, unit, beatUnit } = PATTERN_METERS[meter];
  const inBar = beatsInBar(PATTERN_METERS[meter]);
  const each = beats(`1/${perBeat}`);
  const lengthOf = (note: PatternNote) => each.mul(note.times ?? 1);
  const lastStart = (line: readonly PatternNote[]) => line.slice(0, -1).reduce((at, note) => at.add(lengthOf(note)), beats(0));
  const bars = Math.max(1, Math.floor(lastStart(notes).valueOf() / inBar) + 1);
  const drafts = (line: readonly PatternNote[], staff: 1 | 2) => {
    let at = beats(0);
    return line.flatMap((note, k) => {
      const start = writeBeats(at);
      const length = k === line.length - 1 ? beats(inBar * bars).sub(at) : lengthOf(note);
      at = at.add(lengthOf(note));
      const place = { at: start, staff, voice: 1 };
      const { count: graces, hand } = note.graces ?? { count: 0, hand: 'left' as const };
      return [
        ...Array.from({ length: graces }, () => ({ ...place, pitch: note.pitch, length: '0', grace: true, marks: { hand } })),
        ...[note.pitch, ...(note.with ? [note.with] : [])].map((pitch, n) => ({
          ...place,
          length: writeBeats(length),
          pitch,
          ...(note.accent && n === 0 ? { accent: true } : {}),
          ...(note.printed && n === 0 ? { printed: note.printed } : {}),
          ...(n === 0 && note.marks && Object.keys(note.marks).length ? { marks: note.marks } : {}),
        })),
      ];
    });
  };
  const made = passageOf({
    ...rest,
    bars,
    staves: (lower ? instrument.clefs : instrument.clefs.slice(0, 1)).map((clef) => ({ clef })),
    notes: [...drafts(notes, 1), ...(lower ? drafts(lower, 2) : [])],
  });
  return {
    ...made,
    beatUnit,
    meters: [{ at: '0', count, unit }],
    keys: [{ at: '0', fifths }],
    instrumentId: instrument.id,
    ...(instrument.transposition ? { transposition: instrument.transposition } : {}),
    generator: { id: generator, parameters: parameters as never },
  };
};
