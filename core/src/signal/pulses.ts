import { PitchDetector } from 'pitchy';
import type { Onset } from '../schema/measures';
import type { OnsetDetector } from './detect-onsets';
import { midiOfHz } from './pitch';

/** A frame holds enough periods of a low note and little of a wave; frames overlap. */
const FRAME_S = 0.032;
const HOP_S = 0.004;
const CLEAR = 0.85;
/** A wave goes up and down by at least so many semitones; less is the steadiness of a held note. */
const MIN_SWING = 0.18;
/** A pitch that leaps farther than this from the one before is an octave error or another note. */
const LEAP = 3;
const LEVEL_DB = -20;

/**
 * Reads pulses from the pitch of one held note: each highest point of a wave of pitch is one. Fed block by block like a detector of
 * onsets. Where there is no clear pitch, or it stands still, there are none.
 */
export const createPulseDetector = (sampleRateHz: number): OnsetDetector => {
  const size = 2 ** Math.round(Math.log2(FRAME_S * sampleRateHz));
  const hop = Math.round(HOP_S * sampleRateHz);
  const detector = PitchDetector.forFloat32Array(size);
  let waiting = new Float32Array(0);
  let from = 0;
  /** Middles of the last three clear frames: seconds and semitones. */
  let last: { timeS: number; pitch: number }[] = [];
  let rising = true;
  let extreme: { timeS: number; pitch: number } | null = null;

  const turn = (point: { timeS: number; pitch: number }): Onset | null => {
    if (!extreme) {
      extreme = point;
      return null;
    }
    const beyond = rising ? point.pitch > extreme.pitch : point.pitch < extreme.pitch;
    if (beyond) {
      extreme = point;
      return null;
    }
    if (Math.abs(point.pitch - extreme.pitch) < MIN_SWING) return null;
    const top = rising ? extreme : null;
    rising = !rising;
    extreme = point;
    return top ? { timeS: top.timeS, levelDb: LEVEL_DB } : null;
  };

  const frame = (samples: Float32Array, timeS: number): Onset | null => {
    const [hz, clarity] = detector.findPitch(samples, sampleRateHz);
    const pitch = midiOfHz(hz);
    const before = last.at(-1);
    if (clarity < CLEAR || hz < 30 || (before && Math.abs(pitch - before.pitch) > LEAP && timeS - before.timeS < 0.1))
      return null;
    last = [...last.slice(-2), { timeS, pitch }];
    // The middle one of three: a single wrong frame has no say.
    const middle = [...last].sort((a, b) => a.pitch - b.pitch)[Math.floor(last.length / 2)] as (typeof last)[number];
    const centre = last[Math.floor(last.length / 2)] as (typeof last)[number];
    return turn({ timeS: centre.timeS, pitch: middle.pitch });
  };

  return {
    push(block) {
      const whole = new Float32Array(waiting.length + block.length);
      whole.set(waiting);
      whole.set(block, waiting.length);
      const found: Onset[] = [];
      let at = 0;
      for (; at + size <= whole.length; at += hop) {
        const pulse = frame(whole.subarray(at, at + size), (from + at + size / 2) / sampleRateHz);
        if (pulse) found.push(pulse);
      }
      waiting = whole.slice(at);
      from += at;
      return found;
    },
    flush: () => [],
  };
};
