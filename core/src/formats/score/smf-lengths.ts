import type Fraction from 'fraction.js';
import { beats } from '../../schema/beats';
import type { SmfNote } from './smf-parts';

/** Lengths that written notes have, in quarters: halves and thirds of each. */
const WRITTEN_ENDS = [1, 2, 3, 4, 6, 8];
/** Other divisions of a beat: a note may end there in a beat where others begin there. */
const TUPLETS = [5, 7, 9, 10, 11, 13, 12, 14, 15, 16, 20, 24, 32, 40, 48];
/** Where fewer of the notes end at such places, they are cut short to be told apart: the length of a gate, not of a value. */
const WRITTEN_END_SHARE = 0.8;
/** Below this share of the time to the next note a silence is meant. */
const LEGATO_SHARE = 0.6;

/** Whether notes end where written ones do: where another begins, at a plain place, or at one of the tuplet that is there. */
export const endAsWritten = (notes: readonly SmfNote[], ticksPerBeat: number): boolean => {
  const isOn = (tick: number, division: number) => (tick * division) % ticksPerBeat === 0;
  const starts = new Set(notes.map(({ tick }) => tick));
  const beatOf = (tick: number) => Math.floor(tick / ticksPerBeat);
  const tuplets = new Map<number, number>();
  for (const tick of starts) {
    const division = WRITTEN_ENDS.some((one) => isOn(tick, one)) ? undefined : TUPLETS.find((one) => isOn(tick, one));
    if (division) tuplets.set(beatOf(tick), division);
  }
  const isWritten = (tick: number) => {
    const tuplet = tuplets.get(beatOf(tick - 1));
    return starts.has(tick) || [...WRITTEN_ENDS, ...(tuplet ? [tuplet] : [])].some((one) => isOn(tick, one));
  };
  return notes.filter(({ end }) => isWritten(end)).length >= WRITTEN_END_SHARE * notes.length;
};

/**
 * Where notes end that were played, or shortened by what plays them: at the next onset where they reach near it, else at the nearest
 * sixteenth.
 *
 * @param ats where they begin, in quarters
 */
export const closedUp = (notes: readonly SmfNote[], ats: readonly Fraction[], ticksPerBeat: number): Fraction[] => {
  // Where the next place begins; many notes may lie at one.
  const nexts: (Fraction | undefined)[] = [];
  for (let k = ats.length - 2; k >= 0; k -= 1) {
    const after = ats[k + 1] as Fraction;
    nexts[k] = after.compare(ats[k] as Fraction) > 0 ? after : nexts[k + 1];
  }
  return notes.map((note, k) => {
    const at = ats[k] as Fraction;
    const next = nexts[k];
    const length = (note.end - note.tick) / ticksPerBeat;
    const room = next ? next.sub(at) : null;
    // Notes are played a little shorter or longer than they are written.
    if (room && length > LEGATO_SHARE * room.valueOf() && length < 1.25 * room.valueOf()) return next as Fraction;
    const quarters = Math.max(1, Math.round(length * 4));
    return at.add(beats(quarters).div(4));
  });
};
