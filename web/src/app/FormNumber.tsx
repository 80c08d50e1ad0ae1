import { Field, Input } from '@chakra-ui/react';
import type { FieldValues, Path, UseFormReturn } from 'react-hook-form';
import { labelStyle } from './fields';

interface Props<Values extends FieldValues> {
  form: UseFormReturn<Values>;
  name: Path<Values>;
  label: string;
  unit?: string;
  help?: string;
  width?: string;
  onBlur?: () => void;
}

/** A number of a form: checked by the form's schema as it is typed, what is wrong is said beneath. */
export const FormNumber = <Values extends FieldValues>(props: Props<Values>) => {
  const { form, name, label, unit, help, width = '120px', onBlur } = props;
  const { error } = form.getFieldState(name, form.formState);
  return (
    <Field.Root invalid={error !== undefined} width="auto">
      <Field.Label {...labelStyle}>
        {label}
        {unit && ` (${unit})`}
      </Field.Label>
      <Input
        {...form.register(name, {
          setValueAs: (text) => (typeof text === 'string' ? (text.trim() === '' ? Number.NaN : Number(text)) : text),
          onBlur,
        })}
        inputMode="decimal"
        width={width}
        fontSize="20px"
        fontFamily="heading"
        borderColor="quiet"
        borderRadius="control"
      />
      {help && (
        <Field.HelperText color="quiet" fontSize="15px" maxWidth="240px">
          {help}
        </Field.HelperText>
      )}
      <Field.ErrorText color="ink" fontSize="15px" role="alert" fontWeight="600" maxWidth="240px">
        {error?.message}
      </Field.ErrorText>
    </Field.Root>
  );
};
