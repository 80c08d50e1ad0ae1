import { max, min } from 'd3-array';
import type { NoteResult } from '../schema/measures';
import type { Hand } from '../schema/notation';
import { mean } from '../stats/summary';

const meanOrNull = (values: readonly number[]): number | null => (values.length ? mean(values) : null);

/**
 * Mean sounding share of the interval to the next sounding note, in %: small is staccato, about 100 legato, more overlaps.
 * Null where the input does not say when notes end.
 */
export const articulationPct = (results: readonly NoteResult[]): number | null => {
  const sounding = results.filter((result) => result.onsetS !== null);
  return meanOrNull(
    sounding.slice(0, -1).flatMap((note, k) => {
      const ends = [note.offS, ...(note.members ?? []).map((member) => member.offS)].filter((end) => end !== undefined);
      const next = sounding[k + 1] as NoteResult;
      const from = note.onsetS as number;
      return ends.length ? [(100 * ((max(ends) as number) - from)) / ((next.onsetS as number) - from)] : [];
    }),
  );
};

/** Mean time from the first to the last note of a chord, in ms; null where no chord was played. */
export const chordSpreadMs = (results: readonly NoteResult[]): number | null =>
  meanOrNull(
    results.flatMap(({ members }) => {
      if (!members || members.length < 2) return [];
      const times = members.map((member) => member.timeS);
      return [1000 * ((max(times) as number) - (min(times) as number))];
    }),
  );

/**
 * Mean time of the right hand against the left in chords of both hands, in ms: negative where the right hand leads. `hands`
 * tells, for each expected note, the hand of each of its pitches from the lowest up; members are told apart by pitch order.
 */
export const rightHandMs = (results: readonly NoteResult[], hands: readonly (readonly Hand[] | undefined)[]): number | null =>
  meanOrNull(
    results.flatMap(({ index, members }) => {
      const own = hands[index];
      if (!own || !members || members.length !== own.length) return [];
      const byPitch = [...members].sort((a, b) => (a.pitch ?? 0) - (b.pitch ?? 0));
      const timesOf = (hand: Hand) => byPitch.filter((_, k) => own[k] === hand).map((member) => member.timeS);
      const right = timesOf('right');
      const left = timesOf('left');
      return right.length && left.length ? [1000 * (mean(right) - mean(left))] : [];
    }),
  );
