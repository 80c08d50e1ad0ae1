import type { ClickPlan, ClickPlanKind } from '../schema/grid';
import { usualGroups } from './groupings';

/** The bar that is clicked. Positions and lengths are in beats, from its start. */
export interface ClickedBar {
  /** Counted from 0. */
  bar: number;
  beats: number;
  /** The unit of its meter. */
  unitBeats: number;
  /** Where its notes begin. */
  notes: readonly number[];
}

/** One way to click while the player plays. */
interface ClickPlanWay {
  kind: ClickPlanKind;
  name: string;
  /** The positions inside a bar that are clicked. */
  positions(bar: ClickedBar, plan: ClickPlan): number[];
}

const steps = (barBeats: number, step: number, from = 0): number[] =>
  Array.from({ length: Math.max(0, Math.ceil((barBeats - from) / step - 1e-9)) }, (_, k) => from + k * step);

/** Where the groups of a bar begin, as long as the bar lasts. */
const groupStarts = ({ beats, unitBeats }: ClickedBar, { groups }: ClickPlan): number[] => {
  const units = Math.round(beats / unitBeats);
  const sizes = groups ?? usualGroups(units);
  const starts: number[] = [];
  for (let at = 0, k = 0; at < units; k += 1) {
    starts.push(at * unitBeats);
    at += sizes[k % sizes.length] as number;
  }
  return starts;
};

const USUAL_EVERY = 2;

/** Every way to click. To add one: its kind in schema/grid.ts, and its line here. */
export const CLICK_PLANS: readonly ClickPlanWay[] = [
  { kind: 'beat', name: 'on every beat', positions: ({ beats }) => steps(beats, 1) },
  { kind: 'division', name: 'on every half beat', positions: ({ beats }, { divisions }) => steps(beats, 1 / divisions) },
  { kind: 'note', name: 'on every note', positions: ({ notes }) => [...notes] },
  { kind: 'group', name: 'on each group of the meter', positions: groupStarts },
  { kind: 'off-beat', name: 'between the beats', positions: ({ beats }) => steps(beats, 1, 0.5) },
  { kind: 'bar', name: 'on the first of each bar', positions: () => [0] },
  {
    kind: 'bars',
    name: 'on the first of every few bars',
    positions: ({ bar }, { everyBars = USUAL_EVERY }) => (bar % everyBars === 0 ? [0] : []),
  },
  { kind: 'none', name: 'only before, none while playing', positions: () => [] },
];

/** Where a bar is clicked, in beats from its start. */
export const clickedPositions = (plan: ClickPlan, bar: ClickedBar): number[] =>
  (CLICK_PLANS.find((one) => one.kind === plan.kind) ?? (CLICK_PLANS[0] as ClickPlanWay)).positions(bar, plan);
