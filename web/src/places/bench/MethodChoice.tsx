import { Grid, Heading, Text } from '@chakra-ui/react';
import { profileOf } from '@isochron/core/analysis';
import { METHOD_AIMS, METHODS, type Method, type MethodAim, methodOf, methodSuits } from '@isochron/core/material';
import type { Grid as NoteGrid } from '@isochron/core/schema';
import { useState } from 'react';
import { useSettings } from '../../api/settings';
import { ChoiceCards } from '../../app/ChoiceCards';
import { ChoiceField, Fields, YesNoField } from '../../app/fields';
import { OptionFields } from '../../app/OptionFields';
import { type ConfigChoice, nameChoices } from './config-choice';

const NONE = 'none';
const AIM_WORDS: Record<MethodAim, string> = {
  learn: 'To learn it',
  even: 'To even it out',
  speed: 'To gain speed',
  sure: 'To be sure of it',
};

/** What a method lets one choose. */
const MethodOptions = ({ method, config, change }: ConfigChoice & { method: Method }) => {
  const parameters = config.methodParameters[method.id] ?? {};
  const read = method.parameters.safeParse(parameters);
  return (
    <OptionFields
      fields={method.fields}
      values={read.success ? read.data : method.parameters.parse({})}
      onChange={(key, value) => change({ methodParameters: { [method.id]: { ...parameters, [key]: value } } })}
    />
  );
};

interface Props extends ConfigChoice {
  drillCount: number;
  /** The notes as written. */
  grid: NoteGrid;
  /** Tells which method the player looks at, so that its notation can be shown; null once they look elsewhere. */
  onLook(methodId: string | null): void;
}

/** The practice methods by what they are for, those that suit the instrument first, and what each lets one choose. */
export const MethodChoice = ({ config, change, drillCount, grid, onLook }: Props) => {
  const { settings } = useSettings();
  const [looked, setLooked] = useState<string | null>(null);
  const method = methodOf(config.methodId);
  const also = config.alsoMethodId && config.alsoMethodId !== method.id ? methodOf(config.alsoMethodId) : null;
  const { family } = profileOf(settings.profileId);
  const look = (id: string | null) => {
    setLooked(id);
    onLook(id);
  };
  const suits = (one: Method) => methodSuits(one, { grid, family });
  return (
    <>
      <Text color="quiet" fontSize="16px" minHeight="2.6em" marginBottom="6px" aria-live="polite">
        <b>{methodOf(looked ?? method.id).name}</b>: {methodOf(looked ?? method.id).about}
      </Text>
      <Grid templateColumns={{ base: 'minmax(0, 1fr)', sm: '1fr 1fr', lg: 'repeat(4, minmax(0, 1fr))' }} gap="14px 20px">
        {METHOD_AIMS.map((aim) => {
          const own = METHODS.filter((one) => one.aim === aim);
          return (
            <section key={aim} aria-label={AIM_WORDS[aim]}>
              <Heading as="h3" fontSize="16px" fontWeight="600" marginBottom="6px">
                {AIM_WORDS[aim]}
              </Heading>
              <ChoiceCards
                label={`Practice method: ${AIM_WORDS[aim]}`}
                cardWidth="100%"
                value={method.id}
                choices={[...own.filter(suits), ...own.filter((one) => !suits(one))].map((one) => ({
                  value: one.id,
                  name: one.name,
                  ...(suits(one) ? {} : { about: 'not usual for what you play' }),
                }))}
                onChange={(methodId) => change({ methodId })}
                onLook={look}
              />
            </section>
          );
        })}
      </Grid>
      <Fields>
        <MethodOptions method={method} config={config} change={change} />
        <ChoiceField
          label="Together with"
          help={also?.about}
          width="230px"
          value={also?.id ?? NONE}
          choices={[
            { value: NONE, name: 'nothing else' },
            ...nameChoices(METHODS.filter(({ id }) => id !== method.id && id !== 'straight')),
          ]}
          onChange={(id) => change({ alsoMethodId: id === NONE ? null : id })}
        />
        {also && <MethodOptions method={also} config={config} change={change} />}
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
