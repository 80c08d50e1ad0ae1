import { drillOf } from '../plan/practice-config';
import { summariseTake } from '../plan/summarise-take';
import type { LoggedTempo } from '../schema/api';
import type { Passage } from '../schema/passage';
import type { PracticeConfig } from '../schema/practice-config';
import { makeReason } from '../schema/reason';
import type { Take } from '../schema/take';
import { TOLERANCE_PRESETS } from '../schema/tolerance';
import { clampBpm } from '../time/clamp-tempo';
import { constantTempo } from '../time/tempo-map';
import { makeTake } from './make-take';

/** A line of a log that was kept by hand, as a take without repetitions: its tempo was clean by the player's own word. At noon of its day. */
export const loggedTake = (
  { bpm, note }: LoggedTempo,
  passage: Passage,
  course: PracticeConfig,
  { startedAt, ...ids }: { id: string; sittingId: string; startedAt: string },
): Take => {
  const tempoBpm = clampBpm(bpm);
  const at = new Date(startedAt);
  const clean = {
    tempo: constantTempo(tempoBpm),
    verdict: { outcome: 'clean', reason: 'none', why: makeReason('none') },
    ease: null,
    measures: { demand: null },
  } as const;
  return {
    ...makeTake({
      ...ids,
      passage,
      course,
      startedAt: at,
      endedAt: at,
      input: 'log',
      goalBpm: course.goalBpm,
      startBpm: tempoBpm,
      school: null,
      tolerance: TOLERANCE_PRESETS.secure,
      latencyS: null,
      profileId: 'any',
      drills: [drillOf(passage, course)],
      repetitions: [],
    }),
    note,
    // Whether it begins there again is not known: it begins a little under it.
    closing: summariseTake({ drills: [], repetitions: [clean] }, course.goalBpm, 0),
  };
};
