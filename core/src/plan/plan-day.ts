import { rollup } from 'd3-array';
import { drillsForSpot } from '../rhythm/spot-drills';
import type { BlockKind, DayPlan, PlanBlock, PlanSettings } from '../schema/day-plan';
import type { PracticeDay, WeakSpot } from '../schema/practice';
import { type PracticeConfig, practiceConfigId, practiceConfigKey } from '../schema/practice-config';
import { makeReason, type Reason } from '../schema/reason';
import { clampBpm } from '../time/clamp-tempo';
import { dayIndex } from '../time/day';
import type { DayMinutes } from './day-minutes';
import type { Due } from './due';
import { inOrder } from './order-blocks';
import { slowUpToBpm } from './pace';
import { fastMinutes, playedShares } from './slow-budget';

/** Something that may be practised today. */
export interface PlanItem {
  config: PracticeConfig;
  title: string;
  /** Whether it is music, not an exercise. */
  isMusic: boolean;
  /** Where its strategy would begin. */
  startBpm: number;
  bestCleanBpm: number | null;
  /** The edge as far as the last weeks tell: their fastest clean tempo; null where they have none. */
  edgeBpm: number | null;
  /** The day on which it was last played; empty for never. */
  lastDay: string;
  due: Due | null;
  weak: WeakSpot | null;
  /** The section that it lies in, and where that would begin; null where it lies in none. */
  weakSection: { id: string; name: string; startBpm: number } | null;
  /** Whether the player keeps it for warming up. */
  isWarmUp: boolean;
}

/** Everything that a day's plan is made of. */
export interface PlanInput {
  day: string;
  length: DayMinutes;
  settings: PlanSettings & { breakAfterMin: number };
  items: readonly PlanItem[];
  /** The days of at least a week, today among them. */
  played: readonly PracticeDay[];
  /** What was due and left out the last time, by configuration. */
  leftOutBefore: readonly string[];
  /** A light day has nothing at the edge. */
  isLight?: boolean;
}

const WARM_UP_SHARE = 0.12;
const WARM_UP_MIN = [2, 5] as const;
const MUSIC_MIN = [3, 8] as const;
/** Shorter days have no warm-up block, no music at the end. */
const MIN_FOR_WARM_UP = 10;
const MIN_FOR_MUSIC = 15;
/** A visit takes so long, and all visits no more than this share of the work. */
const VISIT_MIN = 4;
const VISITS_SHARE = 0.4;
/** Less than this is no block. */
const MIN_MIN = 2;
const EDGE_MIN = 6;
const MAX_EDGES = 3;
const METHOD_SHARE = 0.4;
/** Slow work, and music at ease, as shares of the goal and of the best clean tempo. */
const SLOW_OF_GOAL = 2 / 3;
const WARM_OF_BEST = 0.6;
const EASE_OF_BEST = 0.85;
/** A strategy begins about this far under what was clean last. */
const FROM_SLOWER = 0.9;
/** Slower than this share of its goal a passage is no music yet. */
const MIN_MUSICAL = 0.45;

const clamped = (value: number, [low, high]: readonly [number, number]): number => Math.min(high, Math.max(low, value));
const idOf = ({ config }: PlanItem): string => practiceConfigId(config);

type Draft = Omit<PlanBlock, 'id' | 'restMin'>;

const block = (item: PlanItem, kind: BlockKind, minutes: number, reason: Reason, part: Partial<Draft> = {}): Draft => ({
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

const slowLimit = ({ config, edgeBpm }: PlanItem): number => slowUpToBpm(config.goalBpm, edgeBpm);

/** What is slow for who plays it, and leaves room to get faster. */
const slowTempo = (item: PlanItem): number =>
  clampBpm(Math.floor(Math.min(slowLimit(item), SLOW_OF_GOAL * Math.min(item.config.goalBpm, item.startBpm / FROM_SLOWER))));

/** A block that is played slowly on purpose. */
const slowBlock = (item: PlanItem, minutes: number, reason: Reason): Draft =>
  block(item, 'slow', minutes, reason, { purpose: 'slow', startBpm: slowTempo(item) });

const isReached = ({ bestCleanBpm, config }: PlanItem): boolean => (bestCleanBpm ?? 0) >= config.goalBpm;
const isFast = (item: PlanItem): boolean => item.startBpm > slowLimit(item);

/** What is due, the longest overdue first; what was left out the last time before all. */
const dueOnes = ({ items, leftOutBefore }: PlanInput): PlanItem[] =>
  items
    .filter(({ due }) => due !== null && due.inDays <= 0)
    .sort(
      (a, b) =>
        Number(leftOutBefore.includes(idOf(b))) - Number(leftOutBefore.includes(idOf(a))) ||
        (a.due as Due).inDays - (b.due as Due).inDays ||
        idOf(a).localeCompare(idOf(b)),
    );

const isNew = ({ lastDay }: PlanItem): boolean => lastDay === '';

/** A goal's day that is so near comes first (our choice). */
const SOON_DAYS = 21;
const isSoon = ({ config }: PlanItem, day: string): boolean => {
  if (config.goalDay === null) return false;
  const inDays = dayIndex(config.goalDay) - dayIndex(day);
  return inDays >= 0 && inDays <= SOON_DAYS;
};

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

/** A day in the making: what is in it, and what is left of its minutes, of each passage's cap and of fast work. */
interface Making {
  drafts: Draft[];
  leftOut: DayPlan['leftOut'];
  leftMin: number;
  fastLeftMin: number;
  spentMin: Map<string, number>;
}

const spentOn = ({ spentMin }: Making, item: PlanItem): number => spentMin.get(idOf(item)) ?? 0;

/** Whole minutes that an item may still have. */
const roomFor = (making: Making, item: PlanItem, capMin: number): number =>
  Math.floor(Math.min(making.leftMin, capMin - spentOn(making, item)));

/** Counts a block's minutes off. */
const spend = (making: Making, item: PlanItem, minutes: number): void => {
  making.leftMin -= minutes;
  making.spentMin.set(idOf(item), spentOn(making, item) + minutes);
};

const put = (making: Making, item: PlanItem, draft: Draft): void => {
  making.drafts.push(draft);
  spend(making, item, draft.minutes);
};

/** A tag by which a player keeps a passage for warming up. */
const WARM_UP_TAG = /^warm[ -]?ups?$/i;

/** Whether a passage with these tags is kept for warming up. */
export const isKeptForWarmUp = (tags: readonly string[]): boolean => tags.some((tag) => WARM_UP_TAG.test(tag));

/** A warm-up is one of so many that are the easiest, another one each day: variety is part of it. */
const WARM_UPS = 3;

/** What the player keeps for it, in turn; else what lies the farthest over its goal's reach, which is the easiest to begin with. */
const addWarmUp = (making: Making, { items, settings, day }: PlanInput, totalMin: number): void => {
  const played = items.filter(({ bestCleanBpm }) => bestCleanBpm !== null);
  const kept = played.filter(({ isWarmUp }) => isWarmUp);
  const easiest = (kept.length > 0 ? kept : played)
    .toSorted(
      (a, b) =>
        (b.bestCleanBpm as number) / b.config.goalBpm - (a.bestCleanBpm as number) / a.config.goalBpm ||
        idOf(a).localeCompare(idOf(b)),
    )
    .slice(0, WARM_UPS);
  const warm = easiest[dayIndex(day) % Math.max(1, easiest.length)];
  if (!warm || totalMin < MIN_FOR_WARM_UP) return;
  const minutes = Math.min(roomFor(making, warm, settings.capMin), clamped(Math.round(WARM_UP_SHARE * totalMin), WARM_UP_MIN));
  if (minutes < MIN_MIN) return;
  const best = warm.bestCleanBpm as number;
  const bpm = clampBpm(Math.floor(Math.min(slowLimit(warm), WARM_OF_BEST * Math.min(best, warm.config.goalBpm))));
  const reason = makeReason('block-warm-up', { best });
  put(making, warm, block(warm, 'warm-up', minutes, reason, { purpose: 'warm-up', startBpm: bpm }));
};

/** Music for the end, loose; its minutes are set aside. Null where there is none, or no time. */
const musicAtTheEnd = (making: Making, { items, settings }: PlanInput, totalMin: number): Draft | null => {
  const [music] = items
    .filter(({ isMusic, bestCleanBpm, config }) => isMusic && (bestCleanBpm ?? 0) >= MIN_MUSICAL * config.goalBpm)
    .sort((a, b) => a.lastDay.localeCompare(b.lastDay) || idOf(a).localeCompare(idOf(b)));
  if (!music || totalMin < MIN_FOR_MUSIC) return null;
  const minutes = Math.min(roomFor(making, music, settings.capMin), clamped(Math.round(WARM_UP_SHARE * totalMin), MUSIC_MIN));
  if (minutes < MIN_MIN) return null;
  spend(making, music, minutes);
  const best = Math.min(music.bestCleanBpm as number, music.config.goalBpm);
  const bpm = clampBpm(Math.floor(Math.min(slowLimit(music), EASE_OF_BEST * best)));
  return block(music, 'musical', minutes, makeReason('block-musical'), { purpose: 'musical', startBpm: bpm });
};

/** Visits to what is due; what does not fit is named. One visit at least has room, however short the day. */
const addVisits = (making: Making, input: PlanInput): void => {
  const { settings, length } = input;
  const untilMin = making.leftMin - Math.max(VISIT_MIN, Math.floor(VISITS_SHARE * making.leftMin));
  for (const item of dueOnes(input)) {
    const minutes = Math.min(VISIT_MIN, roomFor(making, item, settings.capMin));
    const isOneMore = making.drafts.some(({ kind }) => kind === 'revisit');
    if (minutes < MIN_MIN || (isOneMore && making.leftMin - minutes < untilMin)) {
      const isCapped = settings.capMin - spentOn(making, item) < MIN_MIN;
      making.leftOut.push({
        config: practiceConfigKey(item.config),
        title: item.title,
        why: isCapped
          ? makeReason('left-out-cap', { cap: settings.capMin })
          : makeReason('left-out-minutes', { minutes: length.minutes }),
      });
      continue;
    }
    const bpm = clampBpm(Math.floor(Math.min(item.startBpm, slowLimit(item))));
    put(making, item, block(item, 'revisit', minutes, (item.due as Due).why, { startBpm: bpm }));
  }
};

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
const addWork = (making: Making, input: PlanInput): void => {
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

/**
 * A day's plan from goals, what is due and the minutes there are: a warm-up, visits to what is due, work at the edge with a method for
 * the weak spot that was measured, slow work as the budget asks, and music at the end. Minutes, the cap of each passage and the
 * slow budget are kept; what is due and does not fit is named with its reason, and comes first the next time. The same input gives the
 * same plan.
 */
export const planDay = (input: PlanInput): DayPlan => {
  const { day, length, settings, items, played } = input;
  const { capMin, breakMin, breakAfterMin, slowPct } = settings;
  const breaks = breakAfterMin > 0 ? Math.max(0, Math.ceil(length.minutes / (breakAfterMin + breakMin)) - 1) : 0;
  const totalMin = Math.max(0, Math.floor(length.minutes - breaks * breakMin));
  const today = played.filter((one) => one.day === day);
  const making: Making = {
    drafts: [],
    leftOut: [],
    leftMin: totalMin,
    fastLeftMin: Math.floor(fastMinutes(playedShares(played, day), slowPct, totalMin)),
    spentMin: rollup(
      today,
      (own) => own.reduce((sum, { playedS }) => sum + playedS / 60, 0),
      (one) => practiceConfigId(one),
    ),
  };
  addWarmUp(making, input, totalMin);
  const last = musicAtTheEnd(making, input, totalMin);
  addVisits(making, input);
  addWork(making, input);
  const ordered = [...inOrder(making.drafts, settings.order), ...(last ? [last] : [])];
  // What was left out of the visits may have found its place in the work.
  const planned = new Set(ordered.map(({ config }) => practiceConfigId(config)));
  const leftOut = making.leftOut.filter(({ config }) => !planned.has(practiceConfigId(config)));
  const minutes = ordered.reduce((sum, one) => sum + one.minutes, 0);
  const whys = [
    length.why,
    ...(ordered.length > 0 ? [makeReason(`order-${settings.order}`)] : []),
    ...(slowPct === null || ordered.length === 0 ? [] : [budgetWhy(input, slowPct)]),
    ...(totalMin - minutes >= EDGE_MIN && items.length > 0
      ? [makeReason('day-capped', { cap: capMin, minutes: totalMin - minutes })]
      : []),
  ];
  const blocks = withBreaks(ordered, breaks, settings);
  return { day, minutes: length.minutes, blocks, leftOut, whys, ...(input.isLight ? { isLight: true } : {}) };
};

const budgetWhy = ({ played, day }: PlanInput, slowPct: number): Reason => {
  const { slowS, fastS } = playedShares(played, day);
  if (slowS + fastS < 60) return makeReason('budget-new', { asked: slowPct });
  return makeReason('budget', { asked: slowPct, was: Math.round((100 * slowS) / (slowS + fastS)) });
};

/** Blocks with their names, and so many breaks between them, each before the first block that would make the stretch too long. */
const withBreaks = (
  drafts: readonly Draft[],
  breaks: number,
  { breakAfterMin, breakMin }: PlanInput['settings'],
): PlanBlock[] => {
  const total = drafts.reduce((sum, { minutes }) => sum + minutes, 0);
  const longest = Math.max(breakAfterMin, total / (breaks + 1));
  let sinceBreak = 0;
  let left = breaks;
  return drafts.map((draft, k) => {
    const isTired = left > 0 && k > 0 && sinceBreak + draft.minutes > longest;
    if (isTired) left -= 1;
    sinceBreak = (isTired ? 0 : sinceBreak) + draft.minutes;
    return { ...draft, id: `${draft.kind}-${k + 1}`, restMin: isTired ? breakMin : 0 };
  });
};
