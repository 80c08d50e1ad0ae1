import type { ClickPlan, ClickPlanKind } from '../schema/grid';

/** One way to click while the player plays. */
interface ClickPlanWay {
  kind: ClickPlanKind;
  name: string;
  /** The positions inside a bar of so many beats that are clicked, in beats from its start. */
  positions(barBeats: number, plan: ClickPlan): number[];
}

const steps = (barBeats: number, step: number, from = 0): number[] =>
  Array.from({ length: Math.max(0, Math.ceil((barBeats - from) / step - 1e-9)) }, (_, k) => from + k * step);

/** Every way to click. To add one: its kind in schema/grid.ts, and its line here. */
export const CLICK_PLANS: readonly ClickPlanWay[] = [
  { kind: 'beat', name: 'on every beat', positions: (bar) => steps(bar, 1) },
  { kind: 'division', name: 'on every half beat', positions: (bar, { divisions }) => steps(bar, 1 / divisions) },
  { kind: 'off-beat', name: 'between the beats', positions: (bar) => steps(bar, 1, 0.5) },
  { kind: 'bar', name: 'on the first of each bar', positions: () => [0] },
  { kind: 'none', name: 'only before, none while playing', positions: () => [] },
];

/** Where a bar of so many beats is clicked, in beats from its start. */
export const clickedPositions = (plan: ClickPlan, barBeats: number): number[] =>
  (CLICK_PLANS.find((way) => way.kind === plan.kind) ?? (CLICK_PLANS[0] as ClickPlanWay)).positions(barBeats, plan);
