import { METHODS, methodOf } from '@isochron/core/material';
import { ChoiceField, YesNoField } from '../../app/fields';
import { OptionFields } from '../../app/OptionFields';
import { type ConfigChoice, nameChoices } from './config-choice';

const NONE = 'none';

/** What a method lets one choose. */
const MethodOptions = ({ method, config, change }: ConfigChoice & { method: ReturnType<typeof methodOf> }) => {
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

/** The practice methods of a configuration, with what each lets one choose. */
export const MethodChoice = ({ config, change, drillCount }: ConfigChoice & { drillCount: number }) => {
  const method = methodOf(config.methodId);
  const also = config.alsoMethodId && config.alsoMethodId !== method.id ? methodOf(config.alsoMethodId) : null;
  return (
    <>
      <ChoiceField
        label="Practice method"
        help={method.about}
        width="100%"
        value={method.id}
        choices={nameChoices(METHODS)}
        onChange={(methodId) => change({ methodId })}
      />
      <MethodOptions method={method} config={config} change={change} />
      <ChoiceField
        label="Together with"
        help={also?.about}
        width="100%"
        value={also?.id ?? NONE}
        choices={[
          { value: NONE, name: 'nothing else' },
          ...nameChoices(METHODS.filter(({ id }) => id !== method.id && id !== 'straight')),
        ]}
        onChange={(id) => change({ alsoMethodId: id === NONE ? null : id })}
      />
      {also && <MethodOptions method={also} config={config} change={change} />}
      {drillCount > 1 && (
        <YesNoField label="Begin one further on each day" value={config.rotates} onChange={(rotates) => change({ rotates })} />
      )}
    </>
  );
};
