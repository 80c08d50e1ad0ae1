import { Box, chakra, Field, Flex } from '@chakra-ui/react';
import { useId } from 'react';
import { CoveringRadio } from './CoveringRadio';
import { labelStyle } from './label-style';

const Choice = chakra('label', {
  base: {
    position: 'relative',
    border: '1px solid',
    borderColor: 'quiet',
    marginLeft: '-1px',
    padding: '6px 14px',
    minHeight: '40px',
    fontSize: '17px',
    cursor: 'pointer',
    '&:first-of-type': { marginLeft: 0, borderStartRadius: 'control' },
    '&:last-of-type': { borderEndRadius: 'control' },
    '&:has(input:checked)': { background: 'band', boxShadow: 'inset 0 -3px 0 var(--chakra-colors-now)' },
    '&:has(input:focus-visible)': { outline: '2px solid', outlineColor: 'now', outlineOffset: '2px', zIndex: 1 },
    '&:has(input:disabled)': { cursor: 'default', color: 'quiet' },
  },
});

interface Props<Value extends string> {
  label: string;
  help?: string;
  value: Value;
  choices: readonly { value: Value; name: string }[];
  onChange(value: Value): void;
}

/** One of two or three: all of them in sight, in a row of buttons. */
export const ChoiceRow = <Value extends string>({ label, help, value, choices, onChange }: Props<Value>) => {
  const id = useId();
  return (
    <Field.Root width="auto">
      <Box id={id} lineHeight="20px" {...labelStyle}>
        {label}
      </Box>
      <Flex role="radiogroup" aria-labelledby={id} flexWrap="wrap">
        {choices.map((choice) => (
          <Choice key={choice.value}>
            <CoveringRadio
              type="radio"
              name={id}
              value={choice.value}
              checked={choice.value === value}
              onChange={() => onChange(choice.value)}
            />
            {choice.name}
          </Choice>
        ))}
      </Flex>
      {help && (
        <Field.HelperText color="quiet" fontSize="15px">
          {help}
        </Field.HelperText>
      )}
    </Field.Root>
  );
};
