import { makeReason } from '../schema/reason';
import { clampBpm } from '../time/clamp-tempo';
import { dayIndex } from '../time/day';
import { idOf, type PlanInput, slowLimit } from './plan-item';
import { block, type Draft, type Making, MIN_MIN, put, roomFor, spend } from './plan-making';

const WARM_UP_SHARE = 0.12;
const WARM_UP_MIN = [2, 5] as const;
const MUSIC_MIN = [3, 8] as const;
/** Shorter days have no warm-up block, no music at the end. */
const MIN_FOR_WARM_UP = 10;
const MIN_FOR_MUSIC = 15;
/** A warm-up, and music at ease, as shares of the best clean tempo. */
const WARM_OF_BEST = 0.6;
const EASE_OF_BEST = 0.85;
/** Slower than this share of its goal a passage is no music yet. */
const MIN_MUSICAL = 0.45;

const clamped = (value: number, [low, high]: readonly [number, number]): number => Math.min(high, Math.max(low, value));

/** A tag by which a player keeps a passage for warming up. */
const WARM_UP_TAG = /^warm[ -]?ups?$/i;

/** Whether a passage with these tags is kept for warming up. */
export const isKeptForWarmUp = (tags: readonly string[]): boolean => tags.some((tag) => WARM_UP_TAG.test(tag));

/** A warm-up is one of so many that are the easiest, another one each day: variety is part of it. */
const WARM_UPS = 3;

/** What the player keeps for it, in turn; else what lies the farthest over its goal's reach, which is the easiest to begin with. */
export const addWarmUp = (making: Making, { items, settings, day }: PlanInput, totalMin: number): void => {
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
export const musicAtTheEnd = (making: Making, { items, settings }: PlanInput, totalMin: number): Draft | null => {
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
