/** The rhythms that everything is tried on, in the typed notation. */
import { firstDrill } from '@isochron/core/planning';
import type { Drill } from '@isochron/core/schema';
import { passageOfScore, readText } from '@isochron/core/score';

const STEPS = ['C4', 'D4', 'E4', 'F4', 'G4', 'A4', 'G4', 'F4'];

/** Values in turn until there are so many notes; what is left of the last bar is silence. */
const written = (meter: string, barLength: number, values: readonly number[], notes: number): string => {
  const bars: string[] = [];
  let bar: string[] = [];
  let filled = 0;
  for (let k = 0; k < notes; k += 1) {
    const value = values[k % values.length] as number;
    const [plain, dots] = Number.isInteger(value) ? [value, ''] : [value * 1.5, '.'];
    bar.push(`${STEPS[k % STEPS.length]}/${plain}${dots}`);
    filled += 1 / value;
    if (filled > barLength - 1e-9) {
      bars.push(`${bar.join(' ')} |`);
      bar = [];
      filled = 0;
    }
  }
  if (bar.length) bars.push(`${bar.join(' ')} |`);
  return `meter: ${meter}\n${bars.join('\n')}`;
};

const drillOf = (text: string): Drill => firstDrill(passageOfScore(readText(text), 'typed').passage);

/** A note value of 8/1.5 is a dotted eighth. */
const dotted = (value: number) => value / 1.5;

export interface Rhythm {
  name: string;
  drill(notes: number): Drill;
}

const rhythm = (name: string, meter: string, barLength: number, values: readonly number[]): Rhythm => ({
  name,
  drill: (notes) => drillOf(written(meter, barLength, values, notes)),
});

export const RHYTHMS: readonly Rhythm[] = [
  rhythm('even sixteenths', '4/4', 1, [16]),
  rhythm('even eighths', '4/4', 1, [8]),
  rhythm('dotted', '4/4', 1, [dotted(8), 16]),
  rhythm('quarter and sixteenths', '4/4', 1, [4, 16, 16, 16, 16]),
  rhythm('long with quick groups', '4/4', 1, [2, 8, 8, 16, 16, 16, 16]),
  rhythm('halves with one quick group', '4/4', 1, [2, 2, 2, 4, 16, 16, 16, 16, 2, 2, 2, 2]),
  rhythm('two and one (6/8)', '6/8', 0.75, [4, 8]),
];
