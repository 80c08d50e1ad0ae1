import type { Memory, School } from './school';

interface HalfSpeedClimb extends Memory {
  /** Below the edge the climb goes on in small nudges. */
  nudging: boolean;
}

/** Once the edge is met, tempos move by this much instead of the player's step. */
export const NUDGE_BPM = 2;

const say = (bpm: number) => `${Math.round(bpm * 10) / 10}`;

/**
 * Start at half the goal or lower, one step up after each clean, easy repetition; at the first hard tempo go just
 * below it and nudge. Common practice, no source.
 */
export const HALF_SPEED_CLIMB: School<HalfSpeedClimb> = {
  id: 'half-speed-climb',
  name: 'Half-speed climb',
  about: 'Begins at half the goal. One step up after each clean repetition; below the first hard tempo, small nudges.',
  begin: () => ({ failedInARow: 0, nudging: false }),
  decide(state, { tempoBpm, verdict }, { goalBpm, stepBpm, startBpm }) {
    const nudge = Math.min(NUDGE_BPM, stepBpm);
    if (verdict.outcome === 'clean') {
      if (tempoBpm >= goalBpm) {
        return {
          state: { ...state, failedInARow: 0 },
          decision: { action: 'goal', nextTempoBpm: tempoBpm, reason: `Clean at ${say(tempoBpm)}: the goal is reached.` },
        };
      }
      const up = state.nudging ? nudge : stepBpm;
      const next = Math.min(goalBpm, tempoBpm + up);
      return {
        state: { ...state, failedInARow: 0 },
        decision: {
          action: 'raise',
          nextTempoBpm: next,
          reason: state.nudging ? `Clean: a nudge up to ${say(next)}.` : `Clean: one step up to ${say(next)}.`,
        },
      };
    }
    if (verdict.outcome === 'close') {
      return {
        state: { ...state, failedInARow: 0 },
        decision: { action: 'hold', nextTempoBpm: tempoBpm, reason: `Close: once more at ${say(tempoBpm)}.` },
      };
    }
    const failedInARow = state.failedInARow + 1;
    if (failedInARow === 1 && verdict.outcome !== 'broken') {
      return {
        state: { ...state, failedInARow },
        decision: {
          action: 'hold',
          nextTempoBpm: tempoBpm,
          reason: `Not yet: one more try at ${say(tempoBpm)} before going down.`,
        },
      };
    }
    // Never below half the tempo the player chose to start from.
    const next = Math.max(
      Math.round(startBpm / 2),
      tempoBpm - (state.nudging ? nudge : Math.max(nudge, Math.ceil(stepBpm / 2))),
    );
    return {
      state: { failedInARow, nudging: true },
      decision: {
        action: 'lower',
        nextTempoBpm: next,
        reason: `${verdict.outcome === 'broken' ? 'It came apart' : 'Twice not yet'}: just below, at ${say(next)}, then nudge up.`,
      },
    };
  },
};
