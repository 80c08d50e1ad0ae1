import type { FieldValues, Path, UseFormReturn } from 'react-hook-form';
import { NumberBox, numberFrom } from './fields';

interface Props<Values extends FieldValues> {
  form: UseFormReturn<Values>;
  name: Path<Values>;
  label: string;
  unit?: string;
  help?: string;
  onBlur?: () => void;
}

/** A number of a form: checked by the form's schema as it is typed, what is wrong is said beneath. */
export const FormNumber = <Values extends FieldValues>({ form, name, onBlur, ...box }: Props<Values>) => (
  <NumberBox
    {...box}
    error={form.getFieldState(name, form.formState).error?.message ?? ''}
    {...form.register(name, { setValueAs: (typed) => (typeof typed === 'string' ? numberFrom(typed) : typed), onBlur })}
  />
);
