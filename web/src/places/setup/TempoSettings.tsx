import { Flex } from '@chakra-ui/react';
import { optionsOf, STRATEGIES, strategyOf } from '@isochron/core/strategy';
import { useSettings } from '../../api/settings';
import { ChoiceField } from '../../app/fields';
import { OptionFields } from '../../app/OptionFields';

/** The strategy of passages that have none of their own yet. */
export const TempoSettings = () => {
  const { settings, change } = useSettings();
  const strategy = strategyOf(settings.strategyId);
  const options = settings.strategyOptions[strategy.id];
  return (
    <Flex gap="18px 34px" flexWrap="wrap" align="flex-start">
      <ChoiceField
        label="Tempo plan of new passages"
        help={strategy.about}
        value={strategy.id}
        choices={STRATEGIES.map(({ id, name }) => ({ value: id as string, name: name as string }))}
        onChange={(strategyId) => void change({ strategyId })}
      />
      <OptionFields
        fields={strategy.fields}
        values={optionsOf(strategy, options)}
        onChange={(key, value) =>
          void change({ strategyOptions: { ...settings.strategyOptions, [strategy.id]: { ...options, [key]: value } } })
        }
      />
    </Flex>
  );
};
