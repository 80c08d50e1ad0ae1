import { Box, Flex, Text } from '@chakra-ui/react';
import { SHORT_DAY_MIN, swapBlock } from '@isochron/core/planning';
import { type DayPlan, makeReason, now, practiceConfigId } from '@isochron/core/schema';
import { usePassages } from '../../api/queries/passages';
import { Action } from '../../app/Action';
import { Notice } from '../../app/Notice';
import { PageTitle, Part } from '../../app/Page';
import { useDates } from '../../app/use-dates';
import { useDescribe } from '../../app/use-describe';
import { changePlan } from '../../stores/day-plan';
import { PlanControls } from './PlanControls';
import { PlanList } from './PlanList';
import { TodayNotes } from './TodayNotes';
import { useBeginPlan, useBlockFor, usePlan } from './use-plan';

const titleOf = ({ blocks, minutes }: DayPlan): string => {
  if (blocks.length === 0) return minutes === 0 ? 'A day of rest' : 'Nothing is planned';
  const total = blocks.reduce((sum, block) => sum + block.minutes + block.restMin, 0);
  return `${total} minutes, one block after the other`;
};

/** Said before all else, not among the reasons at the end. */
const AFTER_PAIN = 'day-after-pain';

/** Today: the plan, why it is so, and one large begin. */
export const TodayPlace = () => {
  const { passages } = usePassages();
  const { weekday } = useDates();
  const say = useDescribe();
  const { plan, makePlan, isFirstDay, message } = usePlan();
  const begin = useBeginPlan();
  const blockFor = useBlockFor();
  const isRest = plan?.blocks.length === 0 && plan.minutes === 0;
  return (
    <>
      <Flex justify="space-between" align="flex-end" gap="20px" flexWrap="wrap">
        <Box>
          <PageTitle title="Today">{weekday(now())}</PageTitle>
        </Box>
        {isRest && (
          <Action marginBottom="22px" onClick={() => makePlan(SHORT_DAY_MIN)}>
            Play for {SHORT_DAY_MIN} minutes
          </Action>
        )}
        {plan && plan.blocks.length > 0 && (
          <Action fontSize="34px" fontFamily="heading" padding="10px 36px" marginBottom="22px" onClick={() => begin(plan)}>
            Begin
          </Action>
        )}
      </Flex>
      <TodayNotes isFirstDay={isFirstDay === true} />
      {isFirstDay === null && !message && <Text>Fetching what you played …</Text>}
      <Notice>{message}</Notice>
      {plan && (
        <>
          <Notice>{plan.isLight ? say(makeReason(AFTER_PAIN, { minutes: plan.minutes })) : ''}</Notice>
          <Part title={titleOf(plan)}>
            <PlanList
              plan={plan}
              others={passages}
              onSwap={(blockId, passageId) => {
                const block = blockFor(passageId);
                if (block) changePlan((before) => swapBlock(before, blockId, block));
              }}
            />
            <Box marginTop="12px" fontSize="16px" color="quiet" maxWidth="80ch" data-testid="plan-why">
              {plan.whys
                .filter(({ code }) => code !== AFTER_PAIN)
                .map((reason) => (
                  <Text key={reason.code}>{say(reason)}</Text>
                ))}
            </Box>
          </Part>
          {plan.leftOut.length > 0 && (
            <Part title="Due, but not in today’s plan">
              {plan.leftOut.map(({ config, title, why: reason }) => (
                <Text key={practiceConfigId(config)}>
                  {title}: {say(reason)}
                </Text>
              ))}
            </Part>
          )}
          <PlanControls plan={plan} makePlan={makePlan} />
        </>
      )}
      <Part title="Before you start" onScreen>
        <Text maxWidth="75ch">
          Keep the click and the instrument moderately loud: an hour near 94 dBA is already the recommended limit for a whole
          day, and Isochron cannot measure how loud it is where you stand. Breaks are part of it. If anything hurts, tingles or
          goes numb, stop.
        </Text>
      </Part>
    </>
  );
};
