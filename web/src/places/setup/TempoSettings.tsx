import { Flex } from '@chakra-ui/react';
import { SCHOOLS } from '@isochron/core';
import { z } from 'zod';
import { ChoiceField, NumberField } from '../../app/fields';
import { useSettings } from '../../stores/settings';

const LevelSchema = z.number({ message: 'A number from 0 to 100.' }).min(0, 'Not under 0.').max(100, 'Not over 100.');

/** The tempo school, the step, and how loud the click is. */
export const TempoSettings = () => {
  const { settings, change } = useSettings();
  const school = SCHOOLS[0];
  return (
    <Flex gap="34px" flexWrap="wrap" align="flex-start">
      <ChoiceField
        label="Tempo school"
        help={school?.about}
        value={school?.id ?? ''}
        choices={SCHOOLS.map(({ id, name }) => ({ value: id as string, name }))}
        onChange={() => {}}
      />
      <NumberField
        label="Click level"
        unit="0 to 100"
        value={Math.round(settings.clickLevel * 100)}
        schema={LevelSchema}
        onChange={(level) => void change({ clickLevel: level / 100 })}
      />
      <ChoiceField
        label="Announce each decision by a sound"
        width="140px"
        value={settings.announce ? 'yes' : 'no'}
        choices={[
          { value: 'yes', name: 'yes' },
          { value: 'no', name: 'no' },
        ]}
        onChange={(choice) => void change({ announce: choice === 'yes' })}
      />
    </Flex>
  );
};
