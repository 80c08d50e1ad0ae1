import type { TempoHistory } from '../schema/api';
import type { Solution } from '../schema/library';
import type { Passage } from '../schema/passage';
import { makeReason, type Reason } from '../schema/reason';
import type { TakeListItem } from '../schema/take';
import { localDay } from '../time/day';

/**
 * How it went since something was tried against a tempo that would not come clean: by the best clean tempo of the days after. Null where
 * no tempo was written down with it, or nothing was clean since.
 *
 * @param history of the same passage, in order of days
 */
export const howItWent = ({ atBpm, writtenAt }: Solution, history: TempoHistory): Reason | null => {
  if (atBpm === undefined) return null;
  const written = localDay(new Date(writtenAt));
  const since = history.filter(({ day }) => day > written).map(({ bestCleanBpm }) => bestCleanBpm);
  if (since.length === 0) return null;
  const bestBpm = Math.max(...since);
  return makeReason(bestBpm >= atBpm ? 'tried-helped' : 'tried-not-yet', { bestBpm, atBpm });
};

/** A way in which a passage was practised besides straight: how often, and when last. */
export interface TriedBefore {
  practiceMode: string;
  takes: number;
  lastAt: string;
}

/**
 * What was tried on some bars of a passage besides playing them straight, the last first. What was played of a section that is there no
 * more may have been any bars, and counts.
 *
 * @param bars from 1
 */
export const triedBefore = (
  takes: readonly Pick<TakeListItem, 'practiceMode' | 'startedAt' | 'purpose' | 'sectionId'>[],
  sections: Passage['sections'],
  bars: { fromBar: number; toBar: number },
): TriedBefore[] => {
  const modes = new Map<string, TriedBefore>();
  for (const { practiceMode, startedAt, purpose, sectionId } of takes) {
    if (practiceMode === 'straight' || purpose !== 'work') continue;
    const section = sections.find(({ id }) => id === sectionId);
    if (section && (section.fromBar > bars.toBar || section.toBar < bars.fromBar)) continue;
    const one = modes.get(practiceMode) ?? { practiceMode, takes: 0, lastAt: startedAt };
    modes.set(practiceMode, { ...one, takes: one.takes + 1, lastAt: one.lastAt > startedAt ? one.lastAt : startedAt });
  }
  return [...modes.values()].sort((a, b) => b.lastAt.localeCompare(a.lastAt));
};
