import { Field, Input } from '@chakra-ui/react';
import { labelStyle } from './label-style';

interface Props {
  label: string;
  /** A calendar day (YYYY-MM-DD); empty for none. */
  value: string;
  onChange(value: string): void;
}

/** A day of the calendar, as the browser has it chosen. */
export const DayField = ({ label, value, onChange }: Props) => (
  <Field.Root width="auto">
    <Field.Label {...labelStyle}>{label}</Field.Label>
    <Input
      type="date"
      width="180px"
      borderColor="quiet"
      borderRadius="control"
      value={value}
      onChange={(event) => onChange(event.target.value)}
    />
  </Field.Root>
);
