import { z } from 'zod';
import { why } from '../schema/why';
import { constantTempo } from '../time/tempo-map';
import type { School } from './school';

const Options = z.object({ stepBpm: z.union([z.literal(2), z.literal(5), z.literal(10)]).default(5) });

const State = z.object({
  /** Repetitions in a row at this tempo that were neither clean nor close. */
  failedInARow: z.number().int().min(0),
  /** Below the edge the climb goes on in small nudges. */
  nudging: z.boolean(),
  /** The last tempo from which it had to go down; null while none was met. */
  edgeBpm: z.number().nullable(),
});

/** Once the edge is met, tempos move by this much instead of the player's step. */
export const NUDGE_BPM = 2;

/**
 * Start at half the goal or lower, one step up after each clean, easy repetition; at the first hard tempo go just
 * below it and nudge. Common practice, no source.
 */
export const HALF_SPEED_CLIMB: School<z.infer<typeof Options>, z.infer<typeof State>> = {
  id: 'half-speed-climb',
  name: 'Half-speed climb',
  about: 'Begins at half the goal. One step up after each clean repetition; below the first hard tempo, small nudges.',
  options: Options,
  fields: [
    {
      key: 'stepBpm',
      label: 'Step after a clean repetition',
      choices: [2, 5, 10].map((step) => ({ value: step, name: `${step} at a time` })),
    },
  ],
  state: State,
  // A new take climbs afresh; the edge of the last one stays noted.
  begin: (_options, kept) => ({ failedInARow: 0, nudging: false, edgeBpm: kept?.edgeBpm ?? null }),
  close: (state) => state,
  next(state, { bpm, verdict: { outcome } }, { stepBpm }, { goalBpm, startBpm }) {
    const nudge = Math.min(NUDGE_BPM, stepBpm);
    if (outcome === 'clean') {
      const calm = { ...state, failedInARow: 0 };
      if (bpm >= goalBpm) return { state: calm, action: 'goal', tempo: constantTempo(bpm), why: why('goal', { bpm }) };
      const next = Math.min(goalBpm, bpm + (state.nudging ? nudge : stepBpm));
      const reason = why(state.nudging ? 'climb-nudge' : 'climb-step', { bpm: next });
      return { state: calm, action: 'raise', tempo: constantTempo(next), why: reason };
    }
    const here = constantTempo(bpm);
    if (outcome === 'close') {
      return { state: { ...state, failedInARow: 0 }, action: 'hold', tempo: here, why: why('climb-close', { bpm }) };
    }
    const failedInARow = state.failedInARow + 1;
    if (failedInARow === 1 && outcome !== 'broken') {
      return { state: { ...state, failedInARow }, action: 'hold', tempo: here, why: why('climb-once-more', { bpm }) };
    }
    // Never below half the tempo the player chose to start from.
    const drop = state.nudging ? nudge : Math.max(nudge, Math.ceil(stepBpm / 2));
    const next = Math.max(Math.round(startBpm / 2), bpm - drop);
    const reason = why(outcome === 'broken' ? 'climb-broken' : 'climb-below', { bpm: next });
    return {
      state: { failedInARow, nudging: true, edgeBpm: bpm },
      action: 'lower',
      tempo: constantTempo(next),
      why: reason,
    };
  },
};
