import { beats, type Exercise, type NoteEvent } from '@isochron/core';

/** One notated symbol: a note or a rest, in the notation package's terms. */
export interface ScoreSymbol {
  at: number;
  isRest: boolean;
  pitches: number[];
  /** 1, 2, 4, 8, 16, 32: the undotted note value. */
  value: number;
  dots: number;
  /** Notes of a triplet are written in twice their sounding value times three thirds. */
  isTriplet: boolean;
  fingering: string;
}

const PLAIN = [1, 2, 4, 8, 16, 32];

/** How a length (in whole notes) is written, or null where one symbol cannot say it. */
const written = (wholeNotes: ReturnType<typeof beats>): Pick<ScoreSymbol, 'value' | 'dots' | 'isTriplet'> | null => {
  for (const value of PLAIN) {
    const plain = beats(`1/${value}`);
    if (wholeNotes.equals(plain)) return { value, dots: 0, isTriplet: false };
    if (wholeNotes.equals(plain.mul('3/2'))) return { value, dots: 1, isTriplet: false };
    if (wholeNotes.equals(plain.mul('2/3'))) return { value, dots: 0, isTriplet: true };
  }
  return null;
};

const fingeringOf = (event: NoteEvent): string =>
  event.finger ?? (event.hand === 'right' ? 'R' : event.hand === 'left' ? 'L' : '');

/** The symbols of an exercise in order, with rests in its gaps where one symbol can say them. */
export const notationScore = (exercise: Exercise): ScoreSymbol[] => {
  const unit = beats(exercise.beatUnit);
  const sorted = [...exercise.events].sort((a, b) => beats(a.at).compare(beats(b.at)));
  return sorted.flatMap((event, k) => {
    const own = written(beats(event.length).mul(unit));
    const symbols: ScoreSymbol[] = [];
    const symbol = { at: beats(event.at).valueOf(), isRest: false, pitches: event.pitches, fingering: fingeringOf(event) };
    symbols.push({ ...symbol, ...(own ?? { value: 4, dots: 0, isTriplet: false }) });
    const end = beats(event.at).add(beats(event.length));
    const next = sorted[k + 1];
    const rest = next && beats(next.at).compare(end) > 0 ? written(beats(next.at).sub(end).mul(unit)) : null;
    if (rest) symbols.push({ at: end.valueOf(), isRest: true, pitches: [], fingering: '', ...rest });
    return symbols;
  });
};

const STEPS = ['c', 'c#', 'd', 'd#', 'e', 'f', 'f#', 'g', 'g#', 'a', 'a#', 'b'];

/** A MIDI note number as the notation package writes it: 60 is "c/4". */
export const pitchKey = (midi: number): string => `${STEPS[midi % 12]}/${Math.floor(midi / 12) - 1}`;
