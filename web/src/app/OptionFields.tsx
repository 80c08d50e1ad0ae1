import type { OptionField } from '@isochron/core/schema';
import { ChoiceField } from './fields';

interface Props {
  fields: readonly OptionField[];
  values: Readonly<Record<string, unknown>>;
  onChange(key: string, value: number | string | boolean): void;
}

/** The options of a strategy or the parameters of a method, as it offers them. */
export const OptionFields = ({ fields, values, onChange }: Props) => (
  <>
    {fields.map(({ key, label, choices }) => (
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
    ))}
  </>
);
