import { Flex, Text } from '@chakra-ui/react';
import { type BlockOrder, localDay, now, type PlanSettings as Plan } from '@isochron/core/schema';
import { useSettings } from '../../api/settings';
import { Action } from '../../app/Action';
import { ChoiceField } from '../../app/fields';
import { saveAs } from '../../app/save-as';

const DAYS = ['Monday', 'Tuesday', 'Wednesday', 'Thursday', 'Friday', 'Saturday', 'Sunday'];
const DAY_MIN = [0, 10, 15, 20, 30, 40, 45, 60, 75, 90, 120];
const CAPS_MIN = [5, 8, 10, 15, 20, 30, 45];
const BREAKS_MIN = [3, 5, 10, 15];
const SLOW_PCT = [50, 60, 70, 75, 80, 90];

const ORDERS: readonly { value: BlockOrder; name: string }[] = [
  { value: 'serial', name: 'one kind after the other' },
  { value: 'blocked', name: 'passage after passage' },
  { value: 'mixed', name: 'passages in turn' },
];
const ORDER_HELP: Record<BlockOrder, string> = {
  serial: 'Warm-up, visits, the edge, weak spots, slow work, music: easiest to follow.',
  blocked: 'All of one passage at once: it comes quickest in the hour, and may last less.',
  mixed: 'Short pieces in turn: harder in the hour, and often better kept.',
};

const choices = (values: readonly number[], name: (value: number) => string, now: number) =>
  [...new Set([...values, now])].sort((a, b) => a - b).map((value) => ({ value: String(value), name: name(value) }));
const minutes = (value: number) => (value === 0 ? 'rest' : `${value} min`);

const saveWeek = async (weekMin: readonly number[]) => {
  const { weekCalendar } = await import('@isochron/core/open-formats');
  saveAs('isochron-week.ics', 'text/calendar', weekCalendar(weekMin, localDay(now()), 'Practice'));
};

/** The week, the slow share, the cap and the order of every day's plan. */
export const DayPlanFields = () => {
  const { settings, change } = useSettings();
  const { plan } = settings;
  const set = (part: Partial<Plan>) => void change({ plan: { ...plan, ...part } });
  return (
    <>
      <Flex gap="12px" flexWrap="wrap" role="group" aria-label="Minutes on each day">
        {DAYS.map((day, k) => (
          <ChoiceField
            key={day}
            label={day}
            width="114px"
            value={String(plan.weekMin[k])}
            choices={choices(DAY_MIN, minutes, plan.weekMin[k] as number)}
            onChange={(text) => set({ weekMin: plan.weekMin.map((old, place) => (place === k ? Number(text) : old)) })}
          />
        ))}
      </Flex>
      <Flex gap="18px 34px" flexWrap="wrap" align="flex-start" marginTop="18px">
        <ChoiceField
          label="Of the time, slow"
          help="Faster than nine tenths of the goal is fast. Counted from what was really played in seven days."
          width="230px"
          value={String(plan.slowPct ?? 0)}
          choices={[
            { value: '0', name: 'no budget' },
            ...choices(SLOW_PCT, (value) => `at least ${value} %`, plan.slowPct ?? 75),
          ]}
          onChange={(text) => set({ slowPct: Number(text) || null })}
        />
        <ChoiceField<BlockOrder>
          label="Order of the blocks"
          help={ORDER_HELP[plan.order]}
          width="230px"
          value={plan.order}
          choices={ORDERS}
          onChange={(order) => set({ order })}
        />
        <ChoiceField
          label="A passage gets at most"
          help="A day, so that nothing is drilled too long."
          width="190px"
          value={String(plan.capMin)}
          choices={choices(CAPS_MIN, minutes, plan.capMin)}
          onChange={(text) => set({ capMin: Number(text) })}
        />
        <ChoiceField
          label="A break lasts"
          width="150px"
          value={String(plan.breakMin)}
          choices={choices(BREAKS_MIN, minutes, plan.breakMin)}
          onChange={(text) => set({ breakMin: Number(text) })}
        />
      </Flex>
      <Action quiet marginTop="14px" onClick={() => void saveWeek(plan.weekMin)}>
        The week as a calendar file
      </Action>
      <Text color="quiet" fontSize="16px" marginTop="10px" maxWidth="80ch">
        After how many minutes a break comes is set under “While you play”. A plan that is already made stays as it is until it
        is planned anew.
      </Text>
    </>
  );
};
