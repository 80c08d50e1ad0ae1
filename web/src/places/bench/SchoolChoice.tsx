import { Box, Text } from '@chakra-ui/react';
import { localDay, now, optionsOf, proposeStrategy, STRATEGIES, strategyOf } from '@isochron/core';
import { useHistory } from '../../api/queries';
import { Action } from '../../app/Action';
import { ChoiceField, CountField, YesNoField } from '../../app/fields';
import { OptionFields } from '../../app/OptionFields';
import { useDescribe } from '../../app/use-describe';
import { type ConfigChoice, nameChoices } from './course-choice';

/** The school that would suit by what was played lately, with its reason, where it is another one. */
const StrategyProposal = ({ course, change }: ConfigChoice) => {
  const say = useDescribe();
  const history = useHistory(course.passageId);
  const proposal = proposeStrategy(course, history, localDay(now()));
  if (proposal.schoolId === course.schoolId) return null;
  return (
    <Box fontSize="16px" color="quiet" data-testid="proposal">
      <Text>
        {strategyOf(proposal.schoolId).name} would suit: {say(proposal.why)}
      </Text>
      <Action quiet fontSize="16px" padding="2px 12px" onClick={() => change({ schoolId: proposal.schoolId })}>
        Take it
      </Action>
    </Box>
  );
};

/** The tempo school of a course, what it lets one choose, and what stands over every school. */
export const StrategyChoice = ({ course, change }: ConfigChoice) => {
  const school = strategyOf(course.schoolId);
  const standing = course.schools[school.id];
  return (
    <>
      <ChoiceField
        label="Tempo plan"
        help={school.about}
        width="100%"
        value={school.id}
        choices={nameChoices(STRATEGIES)}
        onChange={(schoolId) => change({ schoolId })}
      />
      <StrategyProposal course={course} change={change} />
      <OptionFields
        fields={school.fields}
        values={optionsOf(school, standing?.options)}
        onChange={(key, value) => {
          change({ schoolOptions: { [school.id]: { ...standing?.options, [key]: value } } });
        }}
      />
      {!school.overshootPct && (
        <CountField
          label="Overshoot"
          value={course.overshootPct}
          counts={[0, 5, 8, 10, 15]}
          name={(percent) => (percent ? `${percent} % past the goal` : 'none')}
          onChange={(overshootPct) => change({ overshootPct })}
        />
      )}
      <CountField
        label="Before any raise"
        value={course.leastRepetitions}
        counts={[1, 2, 3, 5, 8]}
        name={(count) => (count === 1 ? 'no minimum' : `${count} repetitions`)}
        onChange={(leastRepetitions) => change({ leastRepetitions })}
      />
      <CountField
        label="Rest between repetitions"
        value={course.restBars}
        counts={[0, 1, 2, 4, 8]}
        name={(bars) => (bars === 0 ? 'none' : bars === 1 ? 'one bar' : `${bars} bars`)}
        onChange={(restBars) => change({ restBars })}
      />
      <YesNoField
        label="Finish loose when it comes apart"
        value={course.relaxedFinish}
        onChange={(relaxedFinish) => change({ relaxedFinish })}
      />
    </>
  );
};
