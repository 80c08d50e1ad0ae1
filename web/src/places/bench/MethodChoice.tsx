import { Box, Grid, Heading, Text } from '@chakra-ui/react';
import { profileOf } from '@isochron/core/analysis';
import {
  METHOD_CATEGORIES,
  METHODS,
  type Method,
  type MethodCategory,
  methodFields,
  methodOf,
  methodParameters,
  methodSuits,
  methodsCombine,
  type PlayedOn,
} from '@isochron/core/material';
import { variantGrid } from '@isochron/core/planning';
import type { Passage, PracticeConfig } from '@isochron/core/schema';
import { forWhom, judgedHow } from '@isochron/core/words';
import { useMemo, useState } from 'react';
import { useSettings } from '../../api/settings';
import { ChoiceCards } from '../../app/ChoiceCards';
import { ChoiceField, Fields, YesNoField } from '../../app/fields';
import { OptionFields } from '../../app/OptionFields';
import { Strip } from '../../strip/Strip';
import { type ConfigChoice, nameChoices } from './config-choice';
import { useDrills } from './use-drills';

const NONE = 'none';
const CATEGORY_WORDS: Record<MethodCategory, string> = {
  learn: 'To learn it',
  even: 'To even it out',
  speed: 'To gain speed',
  sure: 'To be sure of it',
};

/** What a method lets one choose. */
const MethodOptions = ({ method, played, config, change }: ConfigChoice & { method: Method; played: PlayedOn }) => {
  const parameters = config.methodParameters[method.id] ?? {};
  return (
    <OptionFields
      fields={methodFields(method, played)}
      values={methodParameters(method, parameters)}
      onChange={(key, value) => change({ methodParameters: { [method.id]: { ...parameters, [key]: value } } })}
    />
  );
};

/** So much of a method's notation shows how it looks. */
const PREVIEW_PX = 188;

/** What a method is for, and the beginning of what it makes of the passage: seen before it is chosen. */
const MethodPreview = ({ passage, config, methodId }: { passage: Passage; config: PracticeConfig; methodId: string }) => {
  const { settings } = useSettings();
  const own = methodId === config.methodId ? config : { ...config, methodId, alsoMethodId: null };
  const [drill] = useDrills(passage, own);
  const { name, about, needs } = methodOf(methodId);
  return (
    <Box marginBottom="10px" data-testid="method-preview" data-method={methodId}>
      <Text fontSize="17px">
        <b>{name}</b>: {about}
      </Text>
      <Text fontSize="15px" color="quiet">
        {forWhom({ needs })} {drill && judgedHow(drill)}
      </Text>
      <Box height={`${PREVIEW_PX}px`} overflow="hidden" aria-hidden pointerEvents="none">
        {drill && (
          <Strip title="" grid={drill.grid} repetitions={[]} tolerance={settings.tolerance} calibrated={false} notationOnly />
        )}
      </Box>
    </Box>
  );
};

interface Props extends ConfigChoice {
  passage: Passage;
  drillCount: number;
}

/** The practice methods by what they are for, those that suit the instrument first, and what each lets one choose. */
export const MethodChoice = ({ passage, config, change, drillCount }: Props) => {
  const { settings } = useSettings();
  const [looked, setLooked] = useState<string | null>(null);
  const method = methodOf(config.methodId);
  const also = config.alsoMethodId && config.alsoMethodId !== method.id ? methodOf(config.alsoMethodId) : null;
  const { family } = profileOf(settings.profileId);
  const grid = useMemo(() => variantGrid(passage, config.variantId), [passage, config.variantId]);
  const played = { grid, family };
  const suits = (one: Method) => methodSuits(one, played);
  return (
    <>
      <MethodPreview passage={passage} config={config} methodId={looked ?? method.id} />
      <Grid templateColumns={{ base: 'minmax(0, 1fr)', sm: '1fr 1fr', lg: 'repeat(4, minmax(0, 1fr))' }} gap="14px 20px">
        {METHOD_CATEGORIES.map((category) => {
          const own = METHODS.filter((one) => one.category === category);
          return (
            <section key={category} aria-label={CATEGORY_WORDS[category]}>
              <Heading as="h2" fontSize="16px" fontWeight="600" marginBottom="6px">
                {CATEGORY_WORDS[category]}
              </Heading>
              <ChoiceCards
                label={`Practice method: ${CATEGORY_WORDS[category]}`}
                cardWidth="100%"
                value={method.id}
                choices={[...own.filter(suits), ...own.filter((one) => !suits(one))].map((one) => ({
                  value: one.id,
                  name: one.name,
                  ...(suits(one) ? {} : { about: 'not usual for what you play' }),
                }))}
                onChange={(methodId) =>
                  change({ methodId, ...(also && !methodsCombine(methodOf(methodId), also) ? { alsoMethodId: null } : {}) })
                }
                onLook={setLooked}
              />
            </section>
          );
        })}
      </Grid>
      <Fields>
        <MethodOptions method={method} played={played} config={config} change={change} />
        <ChoiceField
          label="Together with"
          help={also?.about}
          width="230px"
          value={also?.id ?? NONE}
          choices={[
            { value: NONE, name: 'nothing else' },
            ...nameChoices(METHODS.filter((one) => one === also || methodsCombine(method, one))),
          ]}
          onChange={(id) => change({ alsoMethodId: id === NONE ? null : id })}
        />
        {also && <MethodOptions method={also} played={played} config={config} change={change} />}
        {drillCount > 1 && (
          <YesNoField
            label="Begin one further on each day"
            value={config.rotates}
            onChange={(rotates) => change({ rotates })}
          />
        )}
      </Fields>
    </>
  );
};
