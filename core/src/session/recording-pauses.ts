import type { LoopState, Step } from './loop-state';

/** What still sounds when the loop stands still is recorded; and the recording goes on well before the first click. */
const PAUSE_TAIL_S = 1;
const RESUME_LEAD_S = 0.25;

/** The recording stands still where the loop does: standing still may last as long as playing, and is nobody's practice. */
export const withPauses = (before: LoopState, { state, effects }: Step, nowS: number): Step => {
  if (before.phase !== 'problem' && state.phase === 'problem') {
    const atS = nowS + PAUSE_TAIL_S;
    return { state: { ...state, recordingPausedS: atS }, effects: [...effects, { type: 'pause-recording', atS }] };
  }
  if (before.recordingPausedS === null || state.phase !== 'counting') return { state, effects };
  const atS = Math.max(before.recordingPausedS, nowS + RESUME_LEAD_S);
  const recordingStartS = state.recordingStartS + atS - before.recordingPausedS;
  return {
    state: { ...state, recordingStartS, recordingPausedS: null },
    effects: [{ type: 'resume-recording', atS }, ...effects],
  };
};
