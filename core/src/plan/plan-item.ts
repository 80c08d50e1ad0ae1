import type { PlanSettings } from '../schema/day-plan';
import type { PracticeDay, WeakSpot } from '../schema/practice';
import { type PracticeConfig, practiceConfigId } from '../schema/practice-config';
import { clampBpm } from '../time/clamp-tempo';
import { dayIndex } from '../time/day';
import type { DayMinutes } from './day-minutes';
import type { Due } from './due';
import { slowUpToBpm } from './pace';

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

/** Slow work, as a share of the goal. */
const SLOW_OF_GOAL = 2 / 3;
/** A strategy begins about this far under what was clean last. */
const FROM_SLOWER = 0.9;

/** The configuration of an item, as a key. */
export const idOf = ({ config }: PlanItem): string => practiceConfigId(config);

/** The fastest tempo that is slow for who plays it. */
export const slowLimit = ({ config, edgeBpm }: PlanItem): number => slowUpToBpm(config.goalBpm, edgeBpm);

/** What is slow for who plays it, and leaves room to get faster. */
export const slowTempo = (item: PlanItem): number =>
  clampBpm(Math.floor(Math.min(slowLimit(item), SLOW_OF_GOAL * Math.min(item.config.goalBpm, item.startBpm / FROM_SLOWER))));

/** Whether it was clean at its goal. */
export const isReached = ({ bestCleanBpm, config }: PlanItem): boolean => (bestCleanBpm ?? 0) >= config.goalBpm;
/** Whether its strategy begins faster than slow. */
export const isFast = (item: PlanItem): boolean => item.startBpm > slowLimit(item);

/** Whether it was never played. */
export const isNew = ({ lastDay }: PlanItem): boolean => lastDay === '';

/** A goal's day that is so near comes first (our choice). */
const SOON_DAYS = 21;
/** Whether its goal's day is near. */
export const isSoon = ({ config }: PlanItem, day: string): boolean => {
  if (config.goalDay === null) return false;
  const inDays = dayIndex(config.goalDay) - dayIndex(day);
  return inDays >= 0 && inDays <= SOON_DAYS;
};
