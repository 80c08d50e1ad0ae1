import { Field, Flex, type FlexProps, Input, type InputProps, NativeSelect } from '@chakra-ui/react';
import { useEffect, useState } from 'react';
import type { z } from 'zod';
import { ChoiceRow } from './ChoiceRow';
import { labelStyle } from './label-style';

/** What is wrong with what stands in a field; nothing is drawn where it is valid. */
export const FieldError = ({ children }: { children: string }) => (
  <Field.ErrorText color="ink" fontSize="15px" role="alert" fontWeight="600" maxWidth="280px">
    {children}
  </Field.ErrorText>
);

/** Fields beside each other. */
export const Fields = (rest: FlexProps) => (
  <Flex gap="14px 30px" flexWrap="wrap" align="flex-start" marginTop="14px" {...rest} />
);

interface NumberBoxProps extends InputProps {
  label: string;
  unit?: string;
  help?: string;
  /** What is wrong with the number, in a sentence; empty where nothing is. */
  error: string;
}

/** How a number is asked for: its label, its box, a help, and what is wrong with it. */
export const NumberBox = ({ label, unit, help, error, width = '120px', ...input }: NumberBoxProps) => (
  <Field.Root invalid={error !== ''} width="auto">
    <Field.Label {...labelStyle}>
      {label}
      {unit && ` (${unit})`}
    </Field.Label>
    <Input
      {...input}
      inputMode="decimal"
      width={width}
      fontSize="20px"
      fontFamily="heading"
      borderColor="quiet"
      borderRadius="control"
    />
    {help && (
      <Field.HelperText color="quiet" fontSize="15px" maxWidth="280px">
        {help}
      </Field.HelperText>
    )}
    <FieldError>{error}</FieldError>
  </Field.Root>
);

interface NumberProps {
  label: string;
  help?: string;
  unit?: string;
  value: number;
  schema: z.ZodType<number>;
  onChange(value: number): void;
  width?: string;
}

/** The number that was typed; not a number where nothing was. */
export const numberFrom = (text: string): number => (text.trim() === '' ? Number.NaN : Number(text));

/** A field of a form as a number, whether it was typed or set. */
export const asNumber = (value: unknown): unknown => (typeof value === 'string' ? numberFrom(value) : value);

/** A number that is checked as it is typed; what is wrong is said beneath, and only valid numbers are handed on. */
export const NumberField = ({ value, schema, onChange, ...box }: NumberProps) => {
  const [text, setText] = useState(String(value));
  useEffect(() => setText((old) => (Number(old) === value ? old : String(value))), [value]);
  const checked = schema.safeParse(numberFrom(text));
  const change = (next: string) => {
    setText(next);
    const parsed = schema.safeParse(numberFrom(next));
    if (parsed.success) onChange(parsed.data);
  };
  return (
    <NumberBox
      {...box}
      error={checked.error?.issues[0]?.message ?? ''}
      value={text}
      onChange={(event) => change(event.target.value)}
    />
  );
};

interface ChoiceProps<Value extends string> {
  label: string;
  help?: string;
  value: Value;
  choices: readonly { value: Value; name: string }[];
  onChange(value: Value): void;
  width?: string;
}

/** One of several, out of a list. */
const ChoiceList = <Value extends string>({ label, help, value, choices, onChange, width = '280px' }: ChoiceProps<Value>) => (
  <Field.Root width="auto">
    <Field.Label {...labelStyle}>{label}</Field.Label>
    <NativeSelect.Root width={width} maxWidth="100%">
      <NativeSelect.Field
        value={value}
        onChange={(event) => onChange(event.target.value as Value)}
        fontSize="17px"
        borderColor="quiet"
        borderRadius="control"
      >
        {choices.map((choice) => (
          <option key={choice.value} value={choice.value}>
            {choice.name}
          </option>
        ))}
      </NativeSelect.Field>
      <NativeSelect.Indicator />
    </NativeSelect.Root>
    {help && (
      <Field.HelperText color="quiet" fontSize="15px">
        {help}
      </Field.HelperText>
    )}
  </Field.Root>
);

/** So many choices with so short names stand in sight. */
const ROW_CHOICES = 3;
const ROW_NAME = 30;

/** One of several: two or three are buttons in a row, more are a list. */
export const ChoiceField = <Value extends string>(props: ChoiceProps<Value>) => {
  const { choices } = props;
  const isRow = choices.length > 1 && choices.length <= ROW_CHOICES && choices.every(({ name }) => name.length <= ROW_NAME);
  return isRow ? <ChoiceRow {...props} /> : <ChoiceList {...props} />;
};

interface YesNoProps {
  label: string;
  value: boolean;
  onChange(value: boolean): void;
}

/** Yes or no. */
export const YesNoField = ({ label, value, onChange }: YesNoProps) => (
  <ChoiceField<'yes' | 'no'>
    label={label}
    width="140px"
    value={value ? 'yes' : 'no'}
    choices={[
      { value: 'yes', name: 'yes' },
      { value: 'no', name: 'no' },
    ]}
    onChange={(choice) => onChange(choice === 'yes')}
  />
);

interface CountProps {
  label: string;
  help?: string;
  value: number;
  counts: readonly number[];
  name(count: number): string;
  onChange(count: number): void;
}

/** One of a few numbers, each with its name. */
export const CountField = ({ label, help, value, counts, name, onChange }: CountProps) => (
  <ChoiceField
    label={label}
    help={help}
    width="180px"
    value={String(value)}
    choices={counts.map((count) => ({ value: String(count), name: name(count) }))}
    onChange={(count) => onChange(Number(count))}
  />
);
