import type Fraction from 'fraction.js';
import { beats as exact } from '../schema/beats';
import type { ClickPlan, ClickPlanKind } from '../schema/grid';
import type { ClickKind } from './click';
import { usualGroups } from './groupings';

/** The bar that is clicked. Positions and lengths are in beats, from its start. */
export interface ClickedBar {
  /** Counted from 0. */
  bar: number;
  beats: Fraction;
  /** The unit of its meter. */
  unitBeats: Fraction;
  /** Where its notes begin; worked out only where they are clicked. */
  notes(): Fraction[];
}

/** One way to click while the player plays. */
interface ClickPlanWay {
  kind: ClickPlanKind;
  name: string;
  /** The positions inside a bar that are clicked. */
  positions(bar: ClickedBar, plan: ClickPlan): Fraction[];
}

/** Every `step` of a bar, from `from` on, as long as the bar lasts. */
const steps = (barBeats: Fraction, step: Fraction, from = exact(0)): Fraction[] => {
  const count = barBeats.sub(from).div(step).ceil().valueOf();
  return Array.from({ length: Math.max(0, count) }, (_, k) => from.add(step.mul(k)));
};

/** Where the groups of a bar begin, as long as the bar lasts. */
const groupStarts = ({ beats, unitBeats }: ClickedBar, { groups }: ClickPlan): Fraction[] => {
  const units = beats.div(unitBeats).ceil().valueOf();
  const sizes = groups ?? usualGroups(units);
  const starts: Fraction[] = [];
  for (let at = 0, k = 0; at < units; k += 1) {
    starts.push(unitBeats.mul(at));
    at += sizes[k % sizes.length] as number;
  }
  return starts;
};

const USUAL_EVERY = 2;

/** Every way to click. To add one: its kind in schema/grid.ts, and its line here. */
export const CLICK_PLANS: readonly ClickPlanWay[] = [
  { kind: 'beat', name: 'on every beat', positions: ({ beats }) => steps(beats, exact(1)) },
  {
    kind: 'division',
    name: 'on every half beat',
    positions: ({ beats }, { divisions }) => steps(beats, exact(1).div(divisions)),
  },
  { kind: 'note', name: 'on every note', positions: (bar) => bar.notes() },
  { kind: 'group', name: 'on each group of the meter', positions: groupStarts },
  { kind: 'off-beat', name: 'between the beats', positions: ({ beats }) => steps(beats, exact(1), exact('1/2')) },
  { kind: 'bar', name: 'on the first of each bar', positions: () => [exact(0)] },
  {
    kind: 'bars',
    name: 'on the first of every few bars',
    positions: ({ bar }, { everyBars = USUAL_EVERY }) => (bar % everyBars === 0 ? [exact(0)] : []),
  },
  { kind: 'none', name: 'only before, none while playing', positions: () => [] },
];

/** Where a bar is clicked, in beats from its start. */
export const clickedPositions = (plan: ClickPlan, bar: ClickedBar): Fraction[] =>
  (CLICK_PLANS.find((one) => one.kind === plan.kind) ?? (CLICK_PLANS[0] as ClickPlanWay)).positions(bar, plan);

/** Whether the click has fallen silent in a bar, counted from 0. */
export const isSilentBar = ({ gap }: ClickPlan, bar: number): boolean =>
  gap !== undefined && bar % (gap.clickedBars + gap.silentBars) >= gap.clickedBars;

/** What sounds at a place of a bar: its first, a beat, or what lies between. Off-beats and groups are beats of their own. */
export const clickKindAt = ({ kind }: ClickPlan, inBar: Fraction): ClickKind => {
  if (inBar.equals(0)) return 'bar';
  return inBar.d === 1n || kind === 'off-beat' || kind === 'group' ? 'beat' : 'division';
};
