import { group } from 'd3-array';
import type { BlockKind, BlockOrder, PlanBlock } from '../schema/day-plan';
import { practiceConfigId } from '../schema/practice-config';

type Ordered = Pick<PlanBlock, 'kind' | 'minutes' | 'config'>;

/** Where in the day a kind of block stands: the repair of a weak spot and slow work before speed. */
const PLACES: Record<BlockKind, number> = { 'warm-up': 0, revisit: 1, method: 2, slow: 3, edge: 4, own: 5, musical: 6 };
/** Work is cut in pieces of at least this length when it is mixed. */
const PIECE_MIN = 4;

const sorted = <Block extends Ordered>(blocks: readonly Block[], by: (block: Block, index: number) => number): Block[] =>
  blocks
    .map((block, index) => ({ block, at: by(block, index), index }))
    .sort((a, b) => a.at - b.at || a.index - b.index)
    .map(({ block }) => block);

/** Cuts a block into pieces. */
const pieces = <Block extends Ordered>(block: Block): Block[] => {
  const count = Math.max(1, Math.floor(block.minutes / PIECE_MIN));
  const each = Math.floor(block.minutes / count);
  return Array.from({ length: count }, (_, k) => ({
    ...block,
    minutes: k === count - 1 ? block.minutes - each * (count - 1) : each,
  }));
};

/** Takes one piece of each list in turn. */
const inTurn = <Block>(lists: readonly Block[][]): Block[] =>
  Array.from({ length: Math.max(0, ...lists.map((list) => list.length)) }, (_, k) =>
    lists.flatMap((list) => list[k] ?? []),
  ).flat();

const isWork = ({ kind }: Ordered): boolean => PLACES[kind] >= PLACES.method && kind !== 'musical';

/**
 * The orders in which a day's blocks may come; teachers disagree. Serial: kind after kind. Blocked: all of one passage, then all of the next.
 * Mixed: the work cut into pieces of a few minutes that take turns.
 */
export const ORDERS: Record<BlockOrder, <Block extends Ordered>(blocks: readonly Block[]) => Block[]> = {
  serial: (blocks) => sorted(blocks, ({ kind }) => PLACES[kind]),
  blocked: (blocks) => {
    const names = blocks.filter(isWork).map(({ config }) => practiceConfigId(config));
    return sorted(blocks, (one) =>
      isWork(one) ? 10 + names.indexOf(practiceConfigId(one.config)) + PLACES[one.kind] / 10 : PLACES[one.kind],
    );
  },
  mixed: (blocks) => {
    const before = ORDERS.serial(blocks.filter((one) => !isWork(one)));
    const byPassage = [...group(blocks.filter(isWork), ({ config }) => practiceConfigId(config)).values()];
    return [...before, ...inTurn(byPassage.map((own) => own.flatMap(pieces)))];
  },
};

/** Blocks in an order. Pieces of one block that would follow each other are one block again. */
export const inOrder = <Block extends Ordered & { startBpm: number | null }>(
  blocks: readonly Block[],
  order: BlockOrder,
): Block[] => {
  const out: Block[] = [];
  for (const block of ORDERS[order](blocks)) {
    const before = out.at(-1);
    const isSame = before && before.kind === block.kind && practiceConfigId(before.config) === practiceConfigId(block.config);
    if (before && isSame) out[out.length - 1] = { ...before, minutes: before.minutes + block.minutes };
    else out.push(block);
  }
  return out;
};
