import { Box, chakra, Grid, Text } from '@chakra-ui/react';
import { useId } from 'react';
import { CoveringRadio } from './CoveringRadio';

const Card = chakra('label', {
  base: {
    position: 'relative',
    display: 'block',
    border: '1px solid',
    borderColor: 'rule',
    borderRadius: 'control',
    padding: '5px 12px',
    cursor: 'pointer',
    '&:has(input:checked)': { borderColor: 'now', background: 'band' },
    '&:has(input:focus-visible)': { outline: '2px solid', outlineColor: 'now', outlineOffset: '2px' },
  },
});

interface CardChoice<Value extends string> {
  value: Value;
  name: string;
  /** What it is and when it helps; read before it is chosen. */
  about?: string;
}

interface Props<Value extends string> {
  label: string;
  value: Value;
  choices: readonly CardChoice<Value>[];
  onChange(value: Value): void;
  /** The least width of a card. */
  cardWidth?: string;
  /** Tells which one the player looks at, by the pointer or the keys; null once they look elsewhere. */
  onLook?(value: Value | null): void;
}

/** One of several, side by side, each explaining itself before it is chosen. */
export const ChoiceCards = <Value extends string>({
  label,
  value,
  choices,
  onChange,
  cardWidth = '230px',
  onLook,
}: Props<Value>) => {
  const id = useId();
  return (
    <Box as="fieldset" border="none" padding="0" margin="0" minWidth="0" role="radiogroup" aria-label={label}>
      <Grid templateColumns={`repeat(auto-fill, minmax(min(100%, ${cardWidth}), 1fr))`} gap="8px">
        {choices.map((choice) => (
          <Card key={choice.value} onPointerEnter={() => onLook?.(choice.value)} onPointerLeave={() => onLook?.(null)}>
            <CoveringRadio
              type="radio"
              name={id}
              aria-label={choice.name}
              aria-describedby={choice.about ? `${id}-${choice.value}` : undefined}
              checked={choice.value === value}
              onChange={() => onChange(choice.value)}
            />
            <Text fontWeight="600" fontSize="17px" lineHeight="1.25">
              {choice.name}
            </Text>
            {choice.about && (
              <Text id={`${id}-${choice.value}`} fontSize="15px" lineHeight="1.3" color="quiet">
                {choice.about}
              </Text>
            )}
          </Card>
        ))}
      </Grid>
    </Box>
  );
};
