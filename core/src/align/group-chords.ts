import { max } from 'd3-array';
import type { Onset } from '../schema/measures';

/** Notes this close together are one chord, in seconds. */
export const CHORD_S = 0.035;

const grouped = (members: readonly Onset[]): Onset => {
  if (members.length === 1) return members[0] as Onset;
  return {
    timeS: members.reduce((sum, member) => sum + member.timeS, 0) / members.length,
    levelDb: max(members, (member) => member.levelDb) as number,
    members: members.map(({ members: _, ...single }) => single),
  };
};

/**
 * Joins onsets that lie within 35 ms of their first one into one onset at their mean, which keeps them as members. Onsets
 * ascend in time. For inputs that bring every note of a chord by itself.
 */
export const groupChords = (onsets: readonly Onset[]): Onset[] => {
  const groups: Onset[][] = [];
  for (const onset of onsets) {
    const last = groups.at(-1);
    if (last && onset.timeS - (last[0] as Onset).timeS <= CHORD_S) last.push(onset);
    else groups.push([onset]);
  }
  return groups.map(grouped);
};
