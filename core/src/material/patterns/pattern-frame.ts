import { wordField } from '../../rhythm/methods/fields';
import { beats } from '../../schema/beats';
import type { MeterChange } from '../../schema/notation';
import type { OptionField } from '../../schema/options';

/** The bars that a pattern can stand in, and the note value of their beat. */
export const PATTERN_METERS = {
  '4/4': { count: 4, unit: 4, beatUnit: '1/4' },
  '3/4': { count: 3, unit: 4, beatUnit: '1/4' },
  '2/4': { count: 2, unit: 4, beatUnit: '1/4' },
  '5/4': { count: 5, unit: 4, beatUnit: '1/4' },
  '2/2': { count: 2, unit: 2, beatUnit: '1/2' },
  '6/8': { count: 6, unit: 8, beatUnit: '3/8' },
  '9/8': { count: 9, unit: 8, beatUnit: '3/8' },
  '12/8': { count: 12, unit: 8, beatUnit: '3/8' },
} as const satisfies Record<string, Omit<MeterChange, 'at'> & { beatUnit: string }>;

export type PatternMeter = keyof typeof PATTERN_METERS;
export const PATTERN_METER_NAMES = Object.keys(PATTERN_METERS) as [PatternMeter, ...PatternMeter[]];

/** A choice among the bars. */
export const meterField = (): OptionField =>
  wordField('meter', 'Bars of', Object.fromEntries(PATTERN_METER_NAMES.map((name) => [name, name])));

/** How many beats a bar has. */
export const beatsInBar = ({ count, unit, beatUnit }: (typeof PATTERN_METERS)[PatternMeter]): number =>
  beats(`${count}/${unit}`).div(beats(beatUnit)).valueOf();
