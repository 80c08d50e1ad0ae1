import { beats } from '../schema/beats';
import { meterBeats } from '../schema/frame';
import type { Grid } from '../schema/grid';
import { notesPerBeat } from './grid-shape';
import { type NoteNaming, noteValueName } from './note-values';

/** What a tempo counts in a minute. */
export interface TempoUnit {
  /** `beat`, `bar`, `note`, or a note value as a fraction of a whole note. */
  id: string;
  /** In the plural, as in "… a minute". */
  name: string;
  /** How many there are in a beat. */
  perBeat: number;
}

/** Note values by which tempos are said, as fractions of a whole note (common practice). */
const VALUES = ['1/2', '3/8', '1/4', '3/16', '1/8', '1/16'];

/**
 * The units in which a tempo of this music can be said: its own beat first, other note values, its bars where the meter stays, and its notes
 * where they are closest.
 */
export const tempoUnits = (grid: Pick<Grid, 'beatUnit' | 'meters' | 'events'>, naming: NoteNaming): TempoUnit[] => {
  const { beatUnit, meters } = grid;
  const [meter, ...changes] = meters;
  return [
    { id: 'beat', name: `${noteValueName(beatUnit, naming)}s`, perBeat: 1 },
    ...VALUES.filter((value) => !beats(value).equals(beats(beatUnit))).map((value) => ({
      id: value,
      name: `${noteValueName(value, naming)}s`,
      perBeat: beats(beatUnit).div(beats(value)).valueOf(),
    })),
    ...(meter && changes.length === 0 ? [{ id: 'bar', name: 'bars', perBeat: 1 / meterBeats(meter, beatUnit).valueOf() }] : []),
    { id: 'note', name: 'notes', perBeat: notesPerBeat(grid) },
  ];
};

/** The unit that a player wants, where this music has it; else its beat. */
export const tempoUnitOf = (units: readonly TempoUnit[], id: string): TempoUnit =>
  units.find((unit) => unit.id === id) ?? (units[0] as TempoUnit);
