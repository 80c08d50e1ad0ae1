/** A repetition as the app hears it: through the listener, each onset at its time, until it says that it has heard enough. */
import { createListener, type HeardRepetition, MAX_OFFSET_S, profileOf, SETTLED_OFFSET_S } from '@isochron/core/analysis';
import { constantTempo, planRepetition, type RepetitionPlan } from '@isochron/core/material';
import { type Drill, TOLERANCE_PRESETS, type Tolerance } from '@isochron/core/schema';

const RATE_HZ = 8000;
const BLOCK = 256;

export const planOf = (drill: Drill, bpm: number): RepetitionPlan =>
  planRepetition({ drill, tempo: constantTempo(bpm), startS: 1 });

/** How the app looks for the latency once it has seen one: near it, and farther where that leaves something unexplained. */
export const settledAt = (nearS: number, bpm: number) => ({
  nearS,
  reachS: SETTLED_OFFSET_S,
  farS: Math.max(MAX_OFFSET_S, 60 / bpm) + SETTLED_OFFSET_S,
});

export const hearTaps = (options: {
  drill: Drill;
  bpm: number;
  onsetsS: readonly number[];
  nearS?: number;
  tolerance?: Tolerance;
}): { analysed: HeardRepetition['analysed']; atS: number } => {
  const { drill, bpm, onsetsS, nearS = 0, tolerance = TOLERANCE_PRESETS.secure } = options;
  const plan = planOf(drill, bpm);
  const listener = createListener(RATE_HZ);
  listener.expect({
    repetition: 0,
    drill,
    plan,
    profile: profileOf('tap'),
    tolerance,
    latencyS: null,
    offset: settledAt(nearS, bpm),
    hearsClicks: false,
  });
  const sorted = [...onsetsS].sort((a, b) => a - b);
  const silence = new Float32Array(BLOCK);
  let next = 0;
  for (let frame = 0; frame < 120 * RATE_HZ; frame += BLOCK) {
    const untilS = (frame + BLOCK) / RATE_HZ;
    for (; next < sorted.length && (sorted[next] as number) <= untilS; next += 1)
      listener.tap({ timeS: sorted[next] as number, levelDb: -12 });
    const heard = listener.push(silence, frame);
    if (heard) return { analysed: heard.analysed, atS: untilS };
  }
  throw new Error('The listener never had enough.');
};
