import { CLICK_PLANS, groupings, usualGroups } from '@isochron/core/material';
import type { ClickPlan } from '@isochron/core/schema';
import { ChoiceCards } from '../../app/ChoiceCards';
import { ChoiceField, CountField, Fields } from '../../app/fields';
import { useDescribe } from '../../app/use-describe';
import type { ConfigChoice } from './config-choice';

const AS_SUITS = 'as-suits';

const COUNT_INS = [1, 2, 3, 4];

/** Where it clicks, and how long it is counted in; `suited` is the click as it is now, `barUnits` how many units of the meter a bar has. */
export const ClickChoice = ({ config, change, suited, barUnits }: ConfigChoice & { suited: ClickPlan; barUnits: number }) => {
  const say = useDescribe();
  return (
    <>
      <ChoiceCards<ClickPlan['kind'] | typeof AS_SUITS>
        label="Click"
        value={config.click?.kind ?? AS_SUITS}
        choices={[
          { value: AS_SUITS, name: 'as suits the method' },
          ...CLICK_PLANS.map(({ kind, name }) => ({ value: kind, name })),
        ]}
        onChange={(kind) =>
          change({ click: kind === AS_SUITS ? null : { divisions: 2, countInBars: 1, ...config.click, kind } })
        }
      />
      <Fields>
        <CountField
          label="Count-in"
          help={say({ code: 'count-in', values: { bars: suited.countInBars } })}
          value={suited.countInBars}
          counts={COUNT_INS}
          name={(bars) => (bars === 1 ? 'one bar' : `${bars} bars`)}
          onChange={(countInBars) => change({ click: { ...suited, countInBars } })}
        />
        {config.click?.kind === 'group' && (
          <ChoiceField
            label="Grouped"
            width="180px"
            value={(config.click.groups ?? usualGroups(barUnits)).join('+')}
            choices={groupings(barUnits).map((sizes) => ({ value: sizes.join('+'), name: sizes.join(' + ') }))}
            onChange={(text) => {
              if (config.click) change({ click: { ...config.click, groups: text.split('+').map(Number) } });
            }}
          />
        )}
        {config.click?.kind === 'bars' && (
          <CountField
            label="The first of every"
            value={config.click.everyBars ?? 2}
            counts={[2, 4, 8]}
            name={(bars) => `${bars} bars`}
            onChange={(everyBars) => {
              if (config.click) change({ click: { ...config.click, everyBars } });
            }}
          />
        )}
      </Fields>
    </>
  );
};
