import type { ClickPlan } from '../../schema/grid';

/** A click on every beat after one bar of count-in. */
export const PLAIN_CLICK: ClickPlan = { kind: 'beat', divisions: 2, countInBars: 1 };
