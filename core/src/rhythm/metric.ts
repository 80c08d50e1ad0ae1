import type Fraction from 'fraction.js';
import { beats, exactBisector } from '../schema/beats';
import { barStarts, meterBeats } from '../schema/frame';
import type { Grid } from '../schema/grid';

type Metered = Pick<Grid, 'meters' | 'beatUnit' | 'bars'>;
type Meter = Grid['meters'][number];

/** Units of a meter that make one beat: three where they fill the bar by threes, as in 6/8; else one (common practice). */
const unitsToBeat = ({ count, unit }: Meter): number => (count % 3 === 0 && (count > 3 || unit >= 8) ? 3 : 1);

/** The beat that is felt in a meter, in beats of the grid, whatever unit its tempo is said in. */
export const feltBeat = (meter: Meter, beatUnit: string): Fraction =>
  meterBeats({ count: unitsToBeat(meter), unit: meter.unit }, beatUnit);

/** The meter in force at a position. */
export const meterAt = ({ meters }: Pick<Grid, 'meters'>, at: Fraction): Meter =>
  (meters.filter((meter) => beats(meter.at).compare(at) <= 0).at(-1) ?? meters[0]) as Meter;

/** The felt beat at the first downbeat. */
export const firstBeat = (grid: Pick<Grid, 'meters' | 'beatUnit'>): Fraction =>
  feltBeat(meterAt(grid, beats(0)), grid.beatUnit);

/** Where a position lies in its music. All lengths in beats of the grid. */
export interface Place {
  /** From the bar line before it; in a pickup, from where its bar would begin. */
  inBar: Fraction;
  bar: Fraction;
  /** The felt beat. */
  beat: Fraction;
}

/** Tells of a position of a grid where it lies in its bar. */
export const placesIn = (grid: Metered): ((at: Fraction) => Place) => {
  const lines = barStarts(grid);
  return (at) => {
    const meter = meterAt(grid, at);
    const bar = meterBeats(meter, grid.beatUnit);
    const line = at.compare(0) < 0 ? bar.neg() : (lines[exactBisector.right(lines, at) - 1] ?? beats(0));
    return { inBar: at.sub(line), bar, beat: feltBeat(meter, grid.beatUnit) };
  };
};

/** Whether a position is so many of a length from its bar line: a felt beat, where none is given. */
export const isOn = ({ inBar, beat }: Place, length: Fraction = beat): boolean => inBar.mod(length).equals(0);
