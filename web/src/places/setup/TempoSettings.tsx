import { Flex } from '@chakra-ui/react';
import { optionsOf, SCHOOLS, schoolOf } from '@isochron/core';
import { z } from 'zod';
import { useSettings } from '../../api/settings';
import { ChoiceField, NumberField, YesNoField } from '../../app/fields';
import { OptionFields } from '../../app/OptionFields';

const LevelSchema = z.number({ message: 'A number from 0 to 100.' }).min(0, 'Not under 0.').max(100, 'Not over 100.');

/** The school of passages that have none of their own yet, how loud the click is, and whether decisions are heard. */
export const TempoSettings = () => {
  const { settings, change } = useSettings();
  const school = schoolOf(settings.schoolId);
  const options = settings.schoolOptions[school.id];
  return (
    <Flex gap="18px 34px" flexWrap="wrap" align="flex-start">
      <ChoiceField
        label="Tempo school of new passages"
        help={school.about}
        value={school.id}
        choices={SCHOOLS.map(({ id, name }) => ({ value: id as string, name: name as string }))}
        onChange={(schoolId) => void change({ schoolId })}
      />
      <OptionFields
        fields={school.fields}
        values={optionsOf(school, options)}
        onChange={(key, value) =>
          void change({ schoolOptions: { ...settings.schoolOptions, [school.id]: { ...options, [key]: value } } })
        }
      />
      <NumberField
        label="Click level"
        unit="0 to 100"
        value={Math.round(settings.clickLevel * 100)}
        schema={LevelSchema}
        onChange={(level) => void change({ clickLevel: level / 100 })}
      />
      <YesNoField
        label="Announce each decision by a sound"
        value={settings.announce}
        onChange={(announce) => void change({ announce })}
      />
    </Flex>
  );
};
