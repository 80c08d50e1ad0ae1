import { Field, Input } from '@chakra-ui/react';
import type { OptionField } from '@isochron/core/schema';
import { useState } from 'react';
import { ChoiceField, FieldError } from './fields';
import { labelStyle } from './label-style';

interface Props {
  label: string;
  choices: readonly { value: string; name: string }[];
  typed: NonNullable<OptionField['typed']>;
  value: string;
  onChange(value: string): void;
}

const OWN = 'typed';

/** One of a few choices, or anything else of their kind, typed: what cannot be read is said beneath, and only the rest is handed on. */
export const TypedField = ({ label, choices, typed, value, onChange }: Props) => {
  const isOwn = !choices.some((choice) => choice.value === value);
  const [text, setText] = useState(isOwn ? value : typed.start);
  return (
    <>
      <ChoiceField
        label={label}
        width="220px"
        value={isOwn ? OWN : value}
        choices={[...choices, { value: OWN, name: typed.name }]}
        onChange={(chosen) => {
          if (chosen === OWN) setText(typed.start);
          onChange(chosen === OWN ? typed.start : chosen);
        }}
      />
      {isOwn && (
        <Field.Root invalid={!typed.pattern.test(text)} width="auto">
          <Field.Label {...labelStyle}>{`${label}: ${typed.name}`}</Field.Label>
          <Input
            width="260px"
            fontSize="20px"
            fontFamily="mono"
            borderColor="quiet"
            borderRadius="control"
            spellCheck={false}
            value={text}
            onChange={(event) => {
              const next = event.target.value.trim().toLowerCase();
              setText(next);
              if (typed.pattern.test(next)) onChange(next);
            }}
          />
          <Field.HelperText color="quiet" fontSize="15px" maxWidth="280px">
            {typed.hint}
          </Field.HelperText>
          {!typed.pattern.test(text) && <FieldError>{typed.fault}</FieldError>}
        </Field.Root>
      )}
    </>
  );
};
