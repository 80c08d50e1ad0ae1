import type { OptionField } from '@isochron/core/schema';
import { z } from 'zod';
import { ChoiceField, NumberField } from './fields';
import { TypedField } from './TypedField';

interface Props {
  fields: readonly OptionField[];
  values: Readonly<Record<string, unknown>>;
  onChange(key: string, value: number | string | boolean): void;
}

const numberIn = ({ least, most }: NonNullable<OptionField['range']>) => {
  const message = `A whole number from ${least} to ${most}.`;
  return z.number({ message }).int({ message }).min(least, { message }).max(most, { message });
};

/** The options of a strategy or the parameters of a method, as it offers them. */
export const OptionFields = ({ fields, values, onChange }: Props) => (
  <>
    {fields.map(({ key, label, choices, range, typed }) =>
      typed ? (
        <TypedField
          key={key}
          label={label}
          choices={choices.map(({ value, name }) => ({ value: String(value), name }))}
          typed={typed}
          value={String(values[key])}
          onChange={(text) => onChange(key, text)}
        />
      ) : range ? (
        <NumberField
          key={key}
          label={label}
          value={Number(values[key])}
          schema={numberIn(range)}
          onChange={(number) => onChange(key, number)}
        />
      ) : (
        <ChoiceField
          key={key}
          label={label}
          width="180px"
          value={String(values[key])}
          choices={choices.map(({ value, name }) => ({ value: String(value), name }))}
          onChange={(text) => {
            const chosen = choices.find(({ value }) => String(value) === text);
            if (chosen) onChange(key, chosen.value);
          }}
        />
      ),
    )}
  </>
);
