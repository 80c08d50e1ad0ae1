import { drillsForSpot } from '../rhythm/spot-drills';
import { practiceConfigId, practiceConfigKey } from '../schema/practice-config';
import { makeReason, type Reason } from '../schema/reason';
import { dayIndex } from '../time/day';
import { idOf, isFast, isNew, isReached, isSoon, type PlanInput, type PlanItem, slowTempo } from './plan-item';
import { block, type Making, MIN_MIN, put, roomFor, slowBlock } from './plan-making';

/** Work at the edge of one passage takes so long at least. */
export const EDGE_MIN = 6;
const MAX_EDGES = 3;
const METHOD_SHARE = 0.4;

/**
 * What is worked at: goals whose day is near, then the longest left; without any, what was reached. One new passage a day has its turn
 * among them, or it would never be begun; the other new ones come last.
 */
const atWork = ({ items, day }: PlanInput, places: number): PlanItem[] => {
  const open = items.filter((item) => !isReached(item));
  const sorted = [...(open.length > 0 ? open : items)].sort(
    (a, b) =>
      Number(isSoon(b, day)) - Number(isSoon(a, day)) ||
      Number(isNew(a)) - Number(isNew(b)) ||
      a.lastDay.localeCompare(b.lastDay) ||
      idOf(a).localeCompare(idOf(b)),
  );
  const first = sorted.find(isNew);
  // In a day with room for one passage alone, new ones come every other day.
  const turn = places > 1 || dayIndex(day) % 2 === 0;
  if (!first || !turn || sorted.indexOf(first) < places) return sorted;
  return sorted.filter((item) => item !== first).toSpliced(Math.max(0, places - 1), 0, first);
};

const edgeWhy = (item: PlanItem): Reason =>
  item.lastDay === ''
    ? makeReason('block-new', { goal: item.config.goalBpm })
    : item.bestCleanBpm === null
      ? makeReason('block-no-clean', { bpm: item.startBpm })
      : isReached(item)
        ? makeReason('block-keep', { goal: item.config.goalBpm })
        : makeReason('block-edge', { best: item.bestCleanBpm, goal: item.config.goalBpm });

/** One passage's work: its weak spot, its edge as far as fast work is allowed, and slow work for the rest. */
const addEdge = (making: Making, item: PlanItem, minutes: number, { settings: { slowPct }, isLight }: PlanInput): void => {
  let own = minutes;
  if (isLight) {
    put(making, item, slowBlock(item, own, makeReason('block-light')));
    return;
  }
  /** So many of the minutes as may be fast, taken off what is left of them. */
  const takeFast = (wanted: number): number => {
    if (!isFast(item)) return wanted;
    const fast = Math.max(0, Math.min(wanted, making.fastLeftMin));
    if (fast < MIN_MIN) return 0;
    making.fastLeftMin -= fast;
    return fast;
  };
  if (item.weak && own >= 2 * MIN_MIN + 1) {
    const { note, of, ms } = item.weak;
    const onMethod = Math.max(MIN_MIN, Math.round(METHOD_SHARE * own));
    const uses = drillsForSpot(of, note)[0]?.uses ?? [];
    // A weak spot is mended slowly where no more fast work is allowed.
    const startBpm = making.fastLeftMin < onMethod && isFast(item) ? slowTempo(item) : null;
    if (startBpm === null) takeFast(onMethod);
    put(making, item, block(item, 'method', onMethod, makeReason('block-method', { note, ms }), { uses, startBpm }));
    own -= onMethod;
  }
  const atEdge = takeFast(own);
  // Where the weak spot lies in a section, that comes by itself before the whole.
  const { weak, weakSection } = item;
  let onSection = 0;
  if (weak && weakSection && atEdge >= 2 * MIN_MIN) {
    onSection = Math.floor(atEdge / 2);
    const { id: sectionId, name, startBpm } = weakSection;
    const why = makeReason('block-section', { section: name, note: weak.note });
    const part = { config: { ...practiceConfigKey(item.config), sectionId }, title: `${item.title}, ${name}`, startBpm };
    put(making, item, block(item, 'edge', onSection, why, part));
  }
  if (atEdge - onSection >= MIN_MIN) put(making, item, block(item, 'edge', atEdge - onSection, edgeWhy(item)));
  if (own - atEdge >= MIN_MIN)
    put(making, item, slowBlock(item, own - atEdge, makeReason('block-slow', { slow: slowPct ?? 0 })));
};

/** The work of the day: a few passages at their edge; what the caps leave over goes to slow work on what has room. */
export const addWork = (making: Making, input: PlanInput): void => {
  const { capMin } = input.settings;
  const visited = new Set(making.drafts.filter(({ kind }) => kind === 'revisit').map(({ config }) => practiceConfigId(config)));
  const places = Math.max(1, Math.min(MAX_EDGES, Math.floor(making.leftMin / EDGE_MIN)));
  const free = input.items.filter((item) => roomFor(making, item, capMin) >= MIN_MIN && !visited.has(idOf(item)));
  const wanted = atWork(input, places);
  const edges = atWork({ ...input, items: free }, places).slice(0, places);
  const share = Math.max(MIN_MIN, Math.floor(making.leftMin / Math.max(1, edges.length)));
  for (const item of edges) {
    const minutes = Math.min(roomFor(making, item, capMin), share);
    if (minutes >= MIN_MIN) addEdge(making, item, minutes, input);
  }
  // What the caps leave over is shared among what has room.
  const others = wanted.filter((item) => !edges.includes(item) && roomFor(making, item, capMin) >= EDGE_MIN);
  for (const [k, item] of others.entries()) {
    const each = Math.max(EDGE_MIN, Math.ceil(making.leftMin / (others.length - k)));
    const minutes = Math.min(roomFor(making, item, capMin), each);
    if (minutes >= EDGE_MIN) put(making, item, slowBlock(item, minutes, makeReason('block-slow-more')));
  }
};
