import { Box, Flex, Text } from '@chakra-ui/react';
import {
  addBlock,
  type DayPlan,
  makeReason,
  now,
  planDay,
  practiceConfigId,
  practiceConfigKey,
  practiceConfigOf,
  SHORT_DAY_MIN,
  swapBlock,
} from '@isochron/core';
import { useEffect } from 'react';
import { useNavigate } from 'react-router';
import { useHealth, usePassages, usePracticeConfigs } from '../../api/queries';
import { useSettings } from '../../api/settings';
import { Action } from '../../app/Action';
import { ChoiceField } from '../../app/fields';
import { Notice } from '../../app/Notice';
import { PageTitle, Part } from '../../app/Page';
import { saveAs } from '../../app/save-as';
import { useDates } from '../../app/use-dates';
import { useDescribe } from '../../app/use-describe';
import { useBench } from '../../stores/bench';
import { changePlan, showPlan, useDayPlan } from '../../stores/day-plan';
import { startRun } from '../../stores/run';
import { blockPath } from '../bench/use-run';
import { PlanList } from './PlanList';
import { usePlanInput } from './use-plan-input';

const LENGTHS_MIN = [10, 15, 20, 30, 40, 45, 60, 75, 90, 120];
/** What one adds oneself is so long at first. */
const OWN_MIN = 5;
/** A calendar's first block begins so many minutes from now. */
const LEAD_MIN = 10;

/** Today: the plan, why it is so, and one large begin. */
export const TodayPlace = () => {
  const { passages } = usePassages();
  const { practiceConfigs } = usePracticeConfigs();
  const { settings, change } = useSettings();
  const isDemo = useHealth().data?.demo ?? false;
  const { weekday } = useDates();
  const say = useDescribe();
  const navigate = useNavigate();
  const { input, length, message } = usePlanInput();
  const kept = useDayPlan(({ plan }) => plan);
  const plan = kept?.day === input?.day ? kept : null;
  const makePlan = (minutes?: number) => {
    if (!input) return;
    // What was left out of the plan before this day's comes first.
    const leftOutBefore = kept && kept.day < input.day ? kept.leftOut.map(({ config }) => practiceConfigId(config)) : [];
    const own = minutes === undefined ? length : { minutes, why: makeReason('day-own', { minutes }) };
    showPlan(planDay({ ...input, length: own, leftOutBefore }));
  };
  // biome-ignore lint/correctness/useExhaustiveDependencies: once, when all is known and the day has no plan yet.
  useEffect(() => {
    if (input && kept?.day !== input.day) makePlan();
  }, [input, kept?.day]);

  /** A passage as a block practises it: the whole of it, as it was practised last. */
  const partFor = (id: string) => {
    const passage = passages.find((one) => one.id === id);
    return passage && { config: practiceConfigKey(practiceConfigOf(practiceConfigs, passage, settings)), title: passage.title };
  };

  const saveCalendar = async ({ day, blocks }: DayPlan) => {
    const { dayCalendar } = await import('@isochron/core/open-formats');
    const at = now();
    const from = at.getHours() * 60 + at.getMinutes() + LEAD_MIN;
    const said = blocks.map(({ title, minutes, restMin, why: reason }) => ({ title, minutes, restMin, about: say(reason) }));
    saveAs(`isochron-${day}.ics`, 'text/calendar', dayCalendar(day, said, from));
  };

  const total = plan?.blocks.reduce((sum, { minutes, restMin }) => sum + minutes + restMin, 0) ?? 0;
  const begin = () => {
    if (!plan?.blocks[0]) return;
    // An earlier take that still stands on the Bench is none of this.
    useBench.getState().clear();
    startRun(plan.blocks.map(({ id: _, ...block }) => block));
    void navigate(blockPath(plan.blocks[0]));
  };
  return (
    <>
      <Flex justify="space-between" align="flex-end" gap="20px" flexWrap="wrap">
        <Box>
          <PageTitle title="Today">{weekday(now())}</PageTitle>
        </Box>
        {plan?.blocks.length === 0 && plan.minutes === 0 && (
          <Action marginBottom="22px" onClick={() => makePlan(SHORT_DAY_MIN)}>
            Play for {SHORT_DAY_MIN} minutes
          </Action>
        )}
        {plan && plan.blocks.length > 0 && (
          <Action fontSize="34px" fontFamily="heading" padding="10px 36px" marginBottom="22px" onClick={begin}>
            Begin
          </Action>
        )}
      </Flex>
      {isDemo && (
        <Text
          borderLeft="4px solid"
          borderColor="now"
          paddingLeft="14px"
          fontSize="17px"
          maxWidth="80ch"
          className="not-printed"
        >
          This is the demo: ten weeks of made-up practice by a player who does not exist.
          {settings.input === 'simulated' && ' Begin works without an instrument: the simulated player plays.'}
        </Text>
      )}
      {input && input.played.length === 0 && settings.firstDay === 'to-come' && (
        <Flex gap="14px" align="center" flexWrap="wrap" marginY="12px" className="not-printed">
          <Text fontSize="20px">New here? Five short steps lead to a first take.</Text>
          <Action onClick={() => navigate('/first-day')}>Show me</Action>
          <Action quiet onClick={() => void change({ firstDay: 'over' })}>
            Not needed
          </Action>
        </Flex>
      )}
      {!input && !message && <Text>Fetching what you played …</Text>}
      <Notice>{message}</Notice>
      {plan && (
        <>
          <Part
            title={
              plan.blocks.length > 0
                ? `${total} minutes, one block after the other`
                : plan.minutes === 0
                  ? 'A day of rest'
                  : 'Nothing is planned'
            }
          >
            <PlanList
              plan={plan}
              others={passages}
              onSwap={(blockId, passageId) => {
                const part = partFor(passageId);
                if (part) changePlan((before) => swapBlock(before, blockId, part));
              }}
            />
            <Box marginTop="12px" fontSize="16px" color="quiet" maxWidth="80ch" data-testid="plan-why">
              {plan.whys.map((reason) => (
                <Text key={reason.code}>{say(reason)}</Text>
              ))}
            </Box>
          </Part>
          {plan.leftOut.length > 0 && (
            <Part title="Due, and not in it">
              {plan.leftOut.map(({ config, title, why: reason }) => (
                <Text key={practiceConfigId(config)}>
                  {title}: {say(reason)}
                </Text>
              ))}
            </Part>
          )}
          <Flex gap="14px 34px" flexWrap="wrap" align="flex-end" marginTop="20px" className="not-printed">
            <ChoiceField
              label="Time today"
              width="150px"
              value={String(plan.minutes)}
              choices={[...new Set([...LENGTHS_MIN, plan.minutes])]
                .sort((a, b) => a - b)
                .map((one) => ({ value: String(one), name: `${one} minutes` }))}
              onChange={(text) => makePlan(Number(text))}
            />
            <ChoiceField
              label="Add"
              width="260px"
              value=""
              choices={[{ value: '', name: 'a passage …' }, ...passages.map(({ id, title }) => ({ value: id, name: title }))]}
              onChange={(id) => {
                const part = partFor(id);
                if (part) changePlan((before) => addBlock(before, { ...part, minutes: OWN_MIN }));
              }}
            />
            <Action quiet onClick={() => makePlan()}>
              Plan again
            </Action>
            {plan.blocks.length > 0 && (
              <>
                <Action quiet onClick={() => window.print()}>
                  Print it
                </Action>
                <Action quiet onClick={() => void saveCalendar(plan)}>
                  As a calendar file
                </Action>
              </>
            )}
          </Flex>
          {plan.blocks.length > 0 && (
            <Text color="quiet" fontSize="16px" marginTop="8px" maxWidth="80ch" className="not-printed">
              Each block begins by itself, keeps to its time and leads to the next. Esc holds it, Enter goes on. On a block: Alt
              and an arrow move it, + and − change its length, Delete leaves it out. Days, order and the slow share are set in
              Setup.
            </Text>
          )}
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
