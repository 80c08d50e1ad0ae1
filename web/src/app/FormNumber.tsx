import type { FieldValues, Path, UseFormReturn } from 'react-hook-form';
import { asNumber, NumberBox } from './fields';

interface Props<Values extends FieldValues> {
  form: UseFormReturn<Values>;
  name: Path<Values>;
  label: string;
}

/** A number of a form: checked by the form's schema as it is typed, what is wrong is said beneath. */
export const FormNumber = <Values extends FieldValues>({ form, name, label }: Props<Values>) => (
  <NumberBox
    label={label}
    error={form.getFieldState(name, form.formState).error?.message ?? ''}
    {...form.register(name, { setValueAs: asNumber })}
  />
);
