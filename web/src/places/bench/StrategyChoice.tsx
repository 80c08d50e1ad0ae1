import { Box, Text } from '@chakra-ui/react';
import { localDay, now } from '@isochron/core/schema';
import { optionsOf, proposeStrategy, STRATEGIES, strategyOf } from '@isochron/core/strategy';
import { useHistory } from '../../api/queries/practice';
import { Action } from '../../app/Action';
import { ChoiceCards } from '../../app/ChoiceCards';
import { CountField, Fields, YesNoField } from '../../app/fields';
import { OptionFields } from '../../app/OptionFields';
import { useDescribe } from '../../app/use-describe';
import type { ConfigChoice } from './config-choice';

/** The strategy that would suit by what was played lately, with its reason, where it is another one. */
const StrategyProposal = ({ config, change }: ConfigChoice) => {
  const say = useDescribe();
  const history = useHistory(config.passageId);
  const proposal = proposeStrategy(config, history, localDay(now()));
  if (proposal.strategyId === config.strategyId) return null;
  return (
    <Box fontSize="16px" color="quiet" marginTop="10px" data-testid="proposal">
      <Text>
        {strategyOf(proposal.strategyId).name} would suit: {say(proposal.why)}
      </Text>
      <Action quiet fontSize="16px" padding="2px 12px" onClick={() => change({ strategyId: proposal.strategyId })}>
        Take it
      </Action>
    </Box>
  );
};

/** The tempo strategy of a configuration, what it lets one choose, and what stands over every strategy. */
export const StrategyChoice = ({ config, change }: ConfigChoice) => {
  const strategy = strategyOf(config.strategyId);
  const snapshot = config.strategies[strategy.id];
  return (
    <>
      <ChoiceCards
        label="Tempo plan"
        value={strategy.id}
        choices={STRATEGIES.map(({ id, name, about }) => ({ value: id, name, about }))}
        onChange={(strategyId) => change({ strategyId })}
      />
      <StrategyProposal config={config} change={change} />
      <Fields>
        <OptionFields
          fields={strategy.fields}
          values={optionsOf(strategy, snapshot?.options)}
          onChange={(key, value) => {
            change({ strategyOptions: { [strategy.id]: { ...snapshot?.options, [key]: value } } });
          }}
        />
        {!strategy.overshootPct && (
          <CountField
            label="Overshoot"
            value={config.overshootPct}
            counts={[0, 5, 8, 10, 15]}
            name={(percent) => (percent ? `${percent} % past the goal` : 'none')}
            onChange={(overshootPct) => change({ overshootPct })}
          />
        )}
        <CountField
          label="Before any raise"
          value={config.minRepetitions}
          counts={[1, 2, 3, 5, 8]}
          name={(count) => (count === 1 ? 'no minimum' : `${count} repetitions`)}
          onChange={(minRepetitions) => change({ minRepetitions })}
        />
        <CountField
          label="Rest between repetitions"
          value={config.restBars}
          counts={[0, 1, 2, 4, 8]}
          name={(bars) => (bars === 0 ? 'none' : bars === 1 ? 'one bar' : `${bars} bars`)}
          onChange={(restBars) => change({ restBars })}
        />
        <YesNoField
          label="Finish loose when it comes apart"
          value={config.relaxedFinish}
          onChange={(relaxedFinish) => change({ relaxedFinish })}
        />
      </Fields>
    </>
  );
};
