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
  config: PracticeConfig,
  { startedAt, ...ids }: { id: string; sessionId: string; startedAt: string },
): Take => {
  const tempoBpm = clampBpm(bpm);
  const at = new Date(startedAt);
  const clean = {
    tempo: constantTempo(tempoBpm),
    verdict: { outcome: 'clean', reason: 'none', why: makeReason('none') },
    ease: null,
    measures: { toleranceUsage: null },
  } as const;
  return {
    ...makeTake({
      ...ids,
      passage,
      config,
      startedAt: at,
      endedAt: at,
      input: 'log',
      goalBpm: config.goalBpm,
      startBpm: tempoBpm,
      strategy: null,
      tolerance: TOLERANCE_PRESETS.secure,
      latencyS: null,
      profileId: 'any',
      drills: [drillOf(passage, config)],
      repetitions: [],
    }),
    note,
    // Whether it begins there again is not known: it begins a little under it.
    summary: summariseTake({ drills: [], repetitions: [clean] }, config.goalBpm, 0),
  };
};
