import type { BlockKind, DayPlan, PlanBlock } from '../schema/day-plan';
import { practiceConfigKey } from '../schema/practice-config';
import type { Reason } from '../schema/reason';
import { idOf, type PlanItem, slowTempo } from './plan-item';

/** Less than this is no block. */
export const MIN_MIN = 2;

/** A block before it has its place in the day. */
export type Draft = Omit<PlanBlock, 'id' | 'restMin'>;

/** A block of an item: work at its strategy's tempo, where `part` says nothing else. */
export const block = (item: PlanItem, kind: BlockKind, minutes: number, reason: Reason, part: Partial<Draft> = {}): Draft => ({
  kind,
  config: practiceConfigKey(item.config),
  title: item.title,
  minutes,
  purpose: 'work',
  startBpm: null,
  uses: [],
  why: reason,
  ...part,
});

/** A block that is played slowly on purpose. */
export const slowBlock = (item: PlanItem, minutes: number, reason: Reason): Draft =>
  block(item, 'slow', minutes, reason, { purpose: 'slow', startBpm: slowTempo(item) });

/** A day in the making: what is in it, and what is left of its minutes, of each passage's cap and of fast work. */
export interface Making {
  drafts: Draft[];
  leftOut: DayPlan['leftOut'];
  leftMin: number;
  fastLeftMin: number;
  spentMin: Map<string, number>;
}

/** Minutes that an item has had today, or is to have. */
export const spentOn = ({ spentMin }: Making, item: PlanItem): number => spentMin.get(idOf(item)) ?? 0;

/** Whole minutes that an item may still have. */
export const roomFor = (making: Making, item: PlanItem, capMin: number): number =>
  Math.floor(Math.min(making.leftMin, capMin - spentOn(making, item)));

/** Counts a block's minutes off. */
export const spend = (making: Making, item: PlanItem, minutes: number): void => {
  making.leftMin -= minutes;
  making.spentMin.set(idOf(item), spentOn(making, item) + minutes);
};

/** Puts a block into the day. */
export const put = (making: Making, item: PlanItem, draft: Draft): void => {
  making.drafts.push(draft);
  spend(making, item, draft.minutes);
};
