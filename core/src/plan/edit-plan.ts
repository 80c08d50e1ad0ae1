import type { DayPlan, PlanBlock } from '../schema/day-plan';
import { makeReason } from '../schema/reason';

/** A block of the player's own: a passage as it stands. */
export const ownBlock = (part: Pick<PlanBlock, 'config' | 'title' | 'minutes'>): Omit<PlanBlock, 'id'> => ({
  kind: 'own',
  purpose: 'work',
  startBpm: null,
  uses: [],
  restMin: 0,
  why: makeReason('block-own'),
  ...part,
});

const withBlocks = (plan: DayPlan, blocks: PlanBlock[]): DayPlan => ({ ...plan, blocks });

/** The plan with a block moved to a place (from 0), which is kept inside. */
export const moveBlock = (plan: DayPlan, id: string, to: number): DayPlan => {
  const moved = plan.blocks.find((block) => block.id === id);
  if (!moved) return plan;
  const rest = plan.blocks.filter((block) => block !== moved);
  const place = Math.max(0, Math.min(rest.length, to));
  return withBlocks(plan, [...rest.slice(0, place), moved, ...rest.slice(place)]);
};

const SHORTEST_MIN = 1;
const LONGEST_MIN = 60;

/** The plan with a block made longer or shorter, within reason. */
export const resizeBlock = (plan: DayPlan, id: string, byMin: number): DayPlan =>
  withBlocks(
    plan,
    plan.blocks.map((block) =>
      block.id === id ? { ...block, minutes: Math.max(SHORTEST_MIN, Math.min(LONGEST_MIN, block.minutes + byMin)) } : block,
    ),
  );

/** The plan without a block. */
export const skipBlock = (plan: DayPlan, id: string): DayPlan =>
  withBlocks(
    plan,
    plan.blocks.filter((block) => block.id !== id),
  );

/** The plan with a block that practises something else: its tempo and its methods were for the other one. */
export const swapBlock = (plan: DayPlan, id: string, other: Pick<PlanBlock, 'config' | 'title'>): DayPlan =>
  withBlocks(
    plan,
    plan.blocks.map((block) =>
      block.id === id ? { ...ownBlock({ ...other, minutes: block.minutes }), id, restMin: block.restMin } : block,
    ),
  );

/** The plan with one more block at its end. */
export const addBlock = (plan: DayPlan, added: Pick<PlanBlock, 'config' | 'title' | 'minutes'>): DayPlan => {
  const numbers = plan.blocks.map(({ id }) => Number(/\d+$/.exec(id)?.[0] ?? 0));
  return withBlocks(plan, [...plan.blocks, { ...ownBlock(added), id: `own-${Math.max(0, ...numbers) + 1}` }]);
};
