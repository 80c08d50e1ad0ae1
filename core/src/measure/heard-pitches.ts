import { drumKey } from '../rhythm/drum-kit';
import { pitchesOf } from '../rhythm/grid-shape';
import type { Grid } from '../schema/grid';
import type { NoteResult } from '../schema/measures';
import { checkPitches } from './check-pitch';

/** By what a pitch is told from another: on percussion staves by the part of the kit. */
export const pitchKeyIn = ({ staves }: Grid): ((midi: number) => number) =>
  staves.every(({ clef }) => clef === 'percussion') ? drumKey : (midi) => midi;

/** Adds what is known of each note's pitch: chords by their notes, single notes by what was heard. */
export const withPitches = (results: readonly NoteResult[], grid: Grid, isSent: boolean): NoteResult[] => {
  // A drum is written with the key that sounds it; by ear it has no pitch that could be wrong.
  if (!isSent && grid.staves.every(({ clef }) => clef === 'percussion')) return [...results];
  const keyOf = pitchKeyIn(grid);
  const wantedOf = ({ index }: NoteResult) => {
    const event = grid.events[index];
    return event ? pitchesOf(event, grid).map(keyOf) : [];
  };
  const singles = results.map(({ members, pitch }) => (members || pitch == null ? null : keyOf(pitch)));
  const checked = checkPitches(singles, results.map(wantedOf), isSent);
  return results.map((result, k) => {
    const wanted = wantedOf(result);
    if (result.members) {
      const played = result.members.map(({ pitch }) => (pitch === undefined ? undefined : keyOf(pitch)));
      return { ...result, wrongPitch: wanted.length > 0 && !sameNotes(played, wanted) };
    }
    const { cents, wrong } = checked.results[k] as (typeof checked.results)[number];
    if (result.pitch !== undefined && wanted.length > 1) return { ...result, wrongPitch: Number.isInteger(result.pitch) };
    return result.onsetS === null ? result : { ...result, cents, wrongPitch: wrong };
  });
};

const sameNotes = (played: readonly (number | undefined)[], wanted: readonly number[]): boolean =>
  played.length === wanted.length && wanted.every((pitch) => played.includes(pitch));
