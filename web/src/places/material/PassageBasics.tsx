import { Flex, Input, Text } from '@chakra-ui/react';
import {
  BUILT_IN_INSTRUMENTS,
  forInstrument,
  instrumentOf,
  withHandsSwapped,
  withSwing,
  withVariant,
  withVariantName,
} from '@isochron/core/material';
import { type Passage, TempoSchema, type Variant } from '@isochron/core/schema';
import { useSettings } from '../../api/settings';
import { Action } from '../../app/Action';
import { ChoiceField, NumberField } from '../../app/fields';
import { newVariantId } from './new-id';
import { swingChoices, useEighths } from './swings';
import { Transpose } from './Transpose';

interface PassageBasicsProps {
  passage: Passage;
  variant: Variant | null;
  /** Whether it has anything that could swing. */
  swings: boolean;
  onChange(passage: Passage): void;
  onVariant(id: string): void;
  /** What leads to more of the same kind. */
  children?: React.ReactNode;
}

/** What a passage is written for, its goal, and by which of its marks it is shown. */
export const PassageBasics = ({ passage, variant, swings, onChange, onVariant, children }: PassageBasicsProps) => {
  const { settings } = useSettings();
  const eighths = useEighths();
  const instruments = [...settings.instruments, ...BUILT_IN_INSTRUMENTS];
  const addVariant = () => {
    const id = newVariantId();
    onChange(withVariant(passage, variant?.id ?? 'first', id, `another way ${passage.variants.length}`));
    onVariant(id);
  };
  return (
    <>
      <Flex gap="14px 26px" flexWrap="wrap" align="flex-end" marginTop="14px">
        <ChoiceField
          label="Written for"
          width="210px"
          value={instrumentOf(passage.instrumentId, settings.instruments).id}
          choices={instruments.map(({ id, name }) => ({ value: id, name }))}
          onChange={(id) => onChange(forInstrument(passage, instrumentOf(id, settings.instruments)))}
        />
        <NumberField
          label="Goal"
          value={passage.goalBpm}
          schema={TempoSchema}
          onChange={(goalBpm) => onChange({ ...passage, goalBpm })}
          width="100px"
        />
        {swings && (
          <ChoiceField
            label={eighths}
            width="210px"
            value={String(passage.swing ?? 'straight')}
            choices={swingChoices(passage.swing)}
            onChange={(value) => onChange(withSwing(passage, value))}
          />
        )}
        {passage.notes.some(({ pitch }) => pitch !== null) && <Transpose passage={passage} />}
        {passage.variants.length > 0 && (
          <ChoiceField
            label="Marks"
            width="240px"
            value={variant?.id ?? ''}
            choices={passage.variants.map(({ id, name }) => ({ value: id, name }))}
            onChange={onVariant}
          />
        )}
        <Action quiet onClick={addVariant}>
          Another way to play it
        </Action>
        {children}
      </Flex>
      {variant && (
        <Flex align="center" gap="10px" marginTop="8px" flexWrap="wrap">
          <Text fontSize="15px" color="quiet" as="label" id="variant-name">
            Name of these marks
          </Text>
          <Input
            aria-labelledby="variant-name"
            width="260px"
            size="sm"
            value={variant.name}
            maxLength={80}
            borderColor="quiet"
            onChange={({ target }) => target.value !== '' && onChange(withVariantName(passage, variant.id, target.value))}
          />
          {Object.values(variant.marks).some(({ hand, stroke }) => hand || stroke) && (
            <Action quiet fontSize="15px" paddingY="3px" onClick={() => onChange(withHandsSwapped(passage, variant.id))}>
              Swap hands and strokes
            </Action>
          )}
        </Flex>
      )}
    </>
  );
};
