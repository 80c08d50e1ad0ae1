import { drillsForSpot } from '../material/spot-drills';
import { type Course, courseId, keyOf } from '../schema/course';
import type { BlockKind, DayPlan, PlanBlock, PlanSettings } from '../schema/day-plan';
import type { PracticeDay, WeakSpot } from '../schema/practice';
import { type Why, why } from '../schema/why';
import { clampBpm } from '../time/clamp-tempo';
import type { DayMinutes } from './day-minutes';
import { FAST_SHARE } from './digest-take';
import type { Due } from './due';
import { inOrder } from './order-blocks';
import { fastMinutes, playedShares } from './slow-budget';

/** Something that may be practised today. */
export interface PlanItem {
  course: Course;
  title: string;
  /** Whether it is music, not an exercise. */
  isMusic: boolean;
  /** Where its school would begin. */
  startBpm: number;
  bestCleanBpm: number | null;
  /** The day on which it was last played; empty for never. */
  lastDay: string;
  due: Due | null;
  weak: WeakSpot | null;
}

/** Everything that a day's plan is made of. */
export interface PlanInput {
  day: string;
  length: DayMinutes;
  settings: PlanSettings & { breakAfterMin: number };
  items: readonly PlanItem[];
  /** The days of at least a week, today among them. */
  played: readonly PracticeDay[];
  /** What was due and left out the last time, by course. */
  leftOutBefore: readonly string[];
}

const WARM_UP_SHARE = 0.12;
const WARM_UP_MIN = [2, 5] as const;
const MUSIC_MIN = [3, 8] as const;
/** Shorter days have no warm-up block, no music at the end. */
const LEAST_FOR_WARM_UP = 10;
const LEAST_FOR_MUSIC = 15;
/** A visit takes so long, and all visits no more than this share of the work. */
const VISIT_MIN = 4;
const VISITS_SHARE = 0.4;
/** Less than this is no block. */
const LEAST_MIN = 2;
const EDGE_MIN = 6;
const MOST_EDGES = 3;
const METHOD_SHARE = 0.4;
/** Slow work, and music at ease, as shares of the goal and of the best clean tempo. */
const SLOW_OF_GOAL = 2 / 3;
const WARM_OF_BEST = 0.6;
const EASE_OF_BEST = 0.85;
/** Slower than this share of its goal a passage is no music yet. */
const LEAST_MUSICAL = 0.45;

const clamped = (value: number, [low, high]: readonly [number, number]): number => Math.min(high, Math.max(low, value));
const idOf = ({ course }: PlanItem): string => courseId(course);

type Draft = Omit<PlanBlock, 'id' | 'restMin'>;

const block = (item: PlanItem, kind: BlockKind, minutes: number, reason: Why, part: Partial<Draft> = {}): Draft => ({
  kind,
  course: keyOf(item.course),
  title: item.title,
  minutes,
  purpose: 'work',
  startBpm: null,
  uses: [],
  why: reason,
  ...part,
});

/** A block that is played slowly on purpose. */
const slowBlock = (item: PlanItem, minutes: number, reason: Why): Draft => {
  const bpm = clampBpm(Math.round(SLOW_OF_GOAL * Math.min(item.course.goalBpm, item.startBpm / FAST_SHARE)));
  return block(item, 'slow', minutes, reason, { purpose: 'slow', startBpm: bpm });
};

const isReached = ({ bestCleanBpm, course }: PlanItem): boolean => (bestCleanBpm ?? 0) >= course.goalBpm;
const isFast = ({ startBpm, course }: PlanItem): boolean => startBpm >= FAST_SHARE * course.goalBpm;

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

/** What is worked at, the longest left before the rest, new ones last; without any, what was reached. */
const atWork = ({ items }: PlanInput): PlanItem[] => {
  const open = items.filter((item) => !isReached(item));
  return [...(open.length > 0 ? open : items)].sort(
    (a, b) =>
      Number(a.lastDay === '') - Number(b.lastDay === '') ||
      a.lastDay.localeCompare(b.lastDay) ||
      idOf(a).localeCompare(idOf(b)),
  );
};

const edgeWhy = (item: PlanItem): Why =>
  item.lastDay === ''
    ? why('block-new', { goal: item.course.goalBpm })
    : item.bestCleanBpm === null
      ? why('block-no-clean', { bpm: item.startBpm })
      : isReached(item)
        ? why('block-keep', { goal: item.course.goalBpm })
        : why('block-edge', { best: item.bestCleanBpm, goal: item.course.goalBpm });

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
  let left = Math.floor(length.minutes - breaks * breakMin);
  const total = Math.max(0, left);
  const spent = new Map<string, number>();
  for (const one of played) if (one.day === day) spent.set(courseId(one), (spent.get(courseId(one)) ?? 0) + one.playedS / 60);
  const room = (item: PlanItem) => Math.floor(Math.min(left, capMin - (spent.get(idOf(item)) ?? 0)));
  const fastAllowed = fastMinutes(playedShares(played, day), slowPct, total);
  let fastLeft = Math.floor(fastAllowed);
  const drafts: Draft[] = [];
  const take = (item: PlanItem, draft: Draft, isFastOne = false) => {
    drafts.push(draft);
    left -= draft.minutes;
    if (isFastOne) fastLeft -= draft.minutes;
    spent.set(idOf(item), (spent.get(idOf(item)) ?? 0) + draft.minutes);
  };

  const warm = [...items]
    .filter(({ bestCleanBpm }) => bestCleanBpm !== null)
    .sort(
      (a, b) =>
        (b.bestCleanBpm as number) / b.course.goalBpm - (a.bestCleanBpm as number) / a.course.goalBpm ||
        idOf(a).localeCompare(idOf(b)),
    )[0];
  const warmMin = warm ? Math.min(room(warm), clamped(Math.round(WARM_UP_SHARE * total), WARM_UP_MIN)) : 0;
  if (warm && total >= LEAST_FOR_WARM_UP && warmMin >= LEAST_MIN) {
    const bpm = clampBpm(Math.round(WARM_OF_BEST * Math.min(warm.bestCleanBpm as number, warm.course.goalBpm)));
    const reason = why('block-warm-up', { bpm, best: warm.bestCleanBpm as number });
    take(warm, block(warm, 'warm-up', warmMin, reason, { purpose: 'warm-up', startBpm: bpm }));
  }
  const music = items
    .filter(({ isMusic, bestCleanBpm, course }) => isMusic && (bestCleanBpm ?? 0) >= LEAST_MUSICAL * course.goalBpm)
    .sort((a, b) => a.lastDay.localeCompare(b.lastDay) || idOf(a).localeCompare(idOf(b)))[0];
  const easeBpm = music ? clampBpm(Math.round(EASE_OF_BEST * Math.min(music.bestCleanBpm as number, music.course.goalBpm))) : 0;
  const musicMin =
    music && total >= LEAST_FOR_MUSIC ? Math.min(room(music), clamped(Math.round(WARM_UP_SHARE * total), MUSIC_MIN)) : 0;
  let last: Draft | null = null;
  if (music && musicMin >= LEAST_MIN) {
    last = block(music, 'musical', musicMin, why('block-musical'), { purpose: 'musical', startBpm: easeBpm });
    left -= musicMin;
    spent.set(idOf(music), (spent.get(idOf(music)) ?? 0) + musicMin);
  }

  const due = dueOnes(input);
  const visitsEnd = left - Math.max(VISIT_MIN, Math.floor(VISITS_SHARE * left));
  const leftOut: DayPlan['leftOut'] = [];
  for (const item of due) {
    const minutes = Math.min(VISIT_MIN, room(item));
    const isTooLong = drafts.length > 0 && left - minutes < visitsEnd && drafts.some(({ kind }) => kind === 'revisit');
    if (minutes < LEAST_MIN || isTooLong) {
      const isCapped = capMin - (spent.get(idOf(item)) ?? 0) < LEAST_MIN;
      leftOut.push({
        course: keyOf(item.course),
        title: item.title,
        why: isCapped ? why('left-out-cap', { cap: capMin }) : why('left-out-minutes', { minutes: length.minutes }),
      });
      continue;
    }
    const bpm = clampBpm(Math.round(Math.min(item.startBpm, FAST_SHARE * item.course.goalBpm - 1)));
    take(item, block(item, 'revisit', minutes, (item.due as Due).why, { startBpm: bpm }));
  }

  const visited = new Set(drafts.filter(({ kind }) => kind === 'revisit').map(({ course }) => courseId(course)));
  const candidates = atWork(input).filter((item) => room(item) >= LEAST_MIN && !visited.has(idOf(item)));
  const edges = candidates.slice(0, Math.max(1, Math.min(MOST_EDGES, Math.floor(left / EDGE_MIN))));
  const share = Math.floor(left / Math.max(1, edges.length));
  for (const item of edges) {
    let own = Math.min(room(item), Math.max(LEAST_MIN, share));
    if (own < LEAST_MIN) continue;
    if (item.weak && own >= 2 * LEAST_MIN + 1) {
      const minutes = Math.max(LEAST_MIN, Math.round(METHOD_SHARE * own));
      const { note, of, ms } = item.weak;
      const uses = drillsForSpot(of, note)[0]?.uses ?? [];
      take(item, block(item, 'method', minutes, why('block-method', { note, ms }), { uses }));
      own -= minutes;
    }
    const isFastOne = isFast(item);
    const fast = isFastOne ? Math.max(0, Math.min(own, fastLeft)) : own;
    const edge = fast >= LEAST_MIN ? fast : 0;
    if (edge > 0) take(item, block(item, 'edge', edge, edgeWhy(item)), isFastOne);
    if (own - edge >= LEAST_MIN) take(item, slowBlock(item, own - edge, why('block-slow', { slow: slowPct ?? 0 })));
  }
  // What the caps left over goes to slow work on what has room.
  for (const item of atWork(input)) {
    const minutes = Math.min(room(item), left);
    if (minutes >= EDGE_MIN && !edges.includes(item))
      take(item, slowBlock(item, Math.min(minutes, EDGE_MIN), why('block-slow-more')));
  }

  const ordered = [...inOrder(drafts, settings.order), ...(last ? [last] : [])];
  const minutes = ordered.reduce((sum, one) => sum + one.minutes, 0);
  const whys = [
    length.why,
    ...(ordered.length > 0 ? [why(`order-${settings.order}`)] : []),
    ...(slowPct === null || ordered.length === 0 ? [] : [budgetWhy(input, slowPct)]),
    ...(total - minutes >= EDGE_MIN && items.length > 0 ? [why('day-capped', { cap: capMin, minutes: total - minutes })] : []),
  ];
  return { day, minutes: length.minutes, blocks: withBreaks(ordered, breaks, settings), leftOut, whys };
};

const budgetWhy = ({ played, day }: PlanInput, slowPct: number): Why => {
  const { slowS, fastS } = playedShares(played, day);
  if (slowS + fastS < 60) return why('budget-new', { asked: slowPct });
  return why('budget', { asked: slowPct, was: Math.round((100 * slowS) / (slowS + fastS)) });
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
