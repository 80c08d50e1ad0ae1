import { Flex } from '@chakra-ui/react';
import { optionsOf, STRATEGIES, strategyOf } from '@isochron/core';
import { useSettings } from '../../api/settings';
import { ChoiceField } from '../../app/fields';
import { OptionFields } from '../../app/OptionFields';

/** The school of passages that have none of their own yet. */
export const TempoSettings = () => {
  const { settings, change } = useSettings();
  const school = strategyOf(settings.schoolId);
  const options = settings.schoolOptions[school.id];
  return (
    <Flex gap="18px 34px" flexWrap="wrap" align="flex-start">
      <ChoiceField
        label="Tempo plan of new passages"
        help={school.about}
        value={school.id}
        choices={STRATEGIES.map(({ id, name }) => ({ value: id as string, name: name as string }))}
        onChange={(schoolId) => void change({ schoolId })}
      />
      <OptionFields
        fields={school.fields}
        values={optionsOf(school, options)}
        onChange={(key, value) =>
          void change({ schoolOptions: { ...settings.schoolOptions, [school.id]: { ...options, [key]: value } } })
        }
      />
    </Flex>
  );
};
