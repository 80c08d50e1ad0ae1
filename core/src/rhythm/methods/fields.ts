import type { OptionField } from '../../schema/options';

/** A choice among numbers, each said by itself or by `name`. */
export const numberField = (
  key: string,
  label: string,
  numbers: readonly number[],
  name: (n: number) => string = String,
): OptionField => ({ key, label, choices: numbers.map((value) => ({ value, name: name(value) })) });

/** Any whole number, typed. */
export const rangeField = (key: string, label: string, least: number, most: number): OptionField => ({
  ...numberField(key, label, [least, Math.min(least + 3, most), Math.min(least + 7, most)]),
  range: { least, most },
});

/** A choice among words. */
export const wordField = (key: string, label: string, names: Readonly<Record<string, string>>): OptionField => ({
  key,
  label,
  choices: Object.entries(names).map(([value, name]) => ({ value, name })),
});

/** Yes or no. */
export const yesNoField = (key: string, label: string): OptionField => ({
  key,
  label,
  choices: [
    { value: true, name: 'yes' },
    { value: false, name: 'no' },
  ],
});
