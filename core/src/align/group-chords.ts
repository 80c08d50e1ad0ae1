import { max } from 'd3-array';
import type { Onset } from '../schema/measures';

/** Notes this close together are one chord, in seconds. */
const CHORD_S = 0.035;

const grouped = (members: readonly Onset[]): Onset => {
  if (members.length === 1) return members[0] as Onset;
  return {
    timeS: members.reduce((sum, member) => sum + member.timeS, 0) / members.length,
    levelDb: max(members, (member) => member.levelDb) as number,
    members: members.map(({ members: _, ...single }) => single),
  };
};

/**
 * Joins onsets that lie within 35 ms (or as told) of their first one into one onset at their mean, which keeps them as members.
 * Onsets ascend in time. For inputs that bring every note of a chord by itself.
 */
export const groupChords = (onsets: readonly Onset[], withinS = CHORD_S): Onset[] => {
  const groups: Onset[][] = [];
  for (const onset of onsets) {
    const last = groups.at(-1);
    if (last && onset.timeS - (last[0] as Onset).timeS <= withinS) last.push(onset);
    else groups.push([onset]);
  }
  return groups.map(grouped);
};

/** Hands farther apart than this are two entries, in seconds. */
const WIDEST_CHORD_S = 0.09;
/** A chord never reaches so far towards the next note, as a share of the shortest interval. */
const CHORD_SHARE = 0.49;

/**
 * How far apart the notes of a chord may be where the grid asks for chords: hands that are out of step are one late hand, not a
 * missed and an added note each time.
 */
export const chordReachS = (shortestIntervalS: number): number =>
  Math.max(CHORD_S, Math.min(WIDEST_CHORD_S, CHORD_SHARE * shortestIntervalS));
