import { CLICK_PLANS, type ClickPlan, groupings, usualGroups } from '@isochron/core';
import { ChoiceField, CountField } from '../../app/fields';
import { useDescribe } from '../../app/use-describe';
import type { ConfigChoice } from './course-choice';

const AS_SUITS = 'as-suits';

/** Where it clicks; `barUnits` is how many units of the meter a bar has. */
export const ClickChoice = ({ course, change, barUnits }: ConfigChoice & { barUnits: number }) => {
  const say = useDescribe();
  return (
    <>
      <ChoiceField<ClickPlan['kind'] | typeof AS_SUITS>
        label="Click"
        help={say({ code: 'count-in', values: { bars: course.click?.countInBars ?? 1 } })}
        width="100%"
        value={course.click?.kind ?? AS_SUITS}
        choices={[
          { value: AS_SUITS, name: 'as suits the method' },
          ...CLICK_PLANS.map(({ kind, name }) => ({ value: kind, name })),
        ]}
        onChange={(kind) =>
          change({ click: kind === AS_SUITS ? null : { divisions: 2, countInBars: 1, ...course.click, kind } })
        }
      />
      {course.click?.kind === 'group' && (
        <ChoiceField
          label="Grouped"
          width="180px"
          value={(course.click.groups ?? usualGroups(barUnits)).join('+')}
          choices={groupings(barUnits).map((sizes) => ({ value: sizes.join('+'), name: sizes.join(' + ') }))}
          onChange={(text) => {
            if (course.click) change({ click: { ...course.click, groups: text.split('+').map(Number) } });
          }}
        />
      )}
      {course.click?.kind === 'bars' && (
        <CountField
          label="The first of every"
          value={course.click.everyBars ?? 2}
          counts={[2, 4, 8]}
          name={(bars) => `${bars} bars`}
          onChange={(everyBars) => {
            if (course.click) change({ click: { ...course.click, everyBars } });
          }}
        />
      )}
    </>
  );
};
