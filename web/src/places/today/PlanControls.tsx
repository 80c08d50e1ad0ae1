import { Flex, Text } from '@chakra-ui/react';
import { addBlock } from '@isochron/core/planning';
import { type DayPlan, now } from '@isochron/core/schema';
import { usePassages } from '../../api/queries/passages';
import { Action } from '../../app/Action';
import { ChoiceField } from '../../app/fields';
import { saveAs } from '../../app/save-as';
import { useDescribe } from '../../app/use-describe';
import { changePlan } from '../../stores/day-plan';
import { useBlockFor } from './use-plan';

const LENGTHS_MIN = [10, 15, 20, 30, 40, 45, 60, 75, 90, 120];
/** What one adds oneself is so long at first. */
const OWN_MIN = 5;
/** A calendar's first block begins so many minutes from now. */
const LEAD_MIN = 10;

/** What can be done with the day's plan as a whole. */
export const PlanControls = ({ plan, makePlan }: { plan: DayPlan; makePlan(minutes?: number): void }) => {
  const { passages } = usePassages();
  const blockFor = useBlockFor();
  const say = useDescribe();
  const saveCalendar = async ({ day, blocks }: DayPlan) => {
    const { dayCalendar } = await import('@isochron/core/open-formats');
    const at = now();
    const from = at.getHours() * 60 + at.getMinutes() + LEAD_MIN;
    const said = blocks.map(({ title, minutes, restMin, why: reason }) => ({ title, minutes, restMin, about: say(reason) }));
    saveAs(`isochron-${day}.ics`, 'text/calendar', dayCalendar(day, said, from));
  };
  return (
    <>
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
            const block = blockFor(id);
            if (block) changePlan((before) => addBlock(before, { ...block, minutes: OWN_MIN }));
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
          Each block begins by itself, keeps to its time and leads to the next. Esc holds it, Enter goes on. On a block: Alt and
          an arrow move it, + and − change its length, Delete leaves it out. Days, order and the slow share are set in Setup.
        </Text>
      )}
    </>
  );
};
