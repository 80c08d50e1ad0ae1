import { practiceConfigKey } from '../schema/practice-config';
import { makeReason } from '../schema/reason';
import { clampBpm } from '../time/clamp-tempo';
import type { Due } from './due';
import { idOf, type PlanInput, type PlanItem, slowLimit } from './plan-item';
import { block, type Making, MIN_MIN, put, roomFor, spentOn } from './plan-making';

/** A visit takes so long, and all visits no more than this share of the work. */
const VISIT_MIN = 4;
const VISITS_SHARE = 0.4;

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

/** Visits to what is due; what does not fit is named. One visit at least has room, however short the day. */
export const addVisits = (making: Making, input: PlanInput): void => {
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
