import { median } from '../stats/summary';
import { countClipped } from './clipping';

/** How a calibration is played: so many bursts, so far apart. */
export const CALIBRATION = { bursts: 10, firstS: 0.4, everyS: 0.55, longestS: 0.45 } as const;

/** The burst: 12 ms rising from 1 to 6 kHz, as loudspeakers and headphones both carry it. */
export const calibrationBurst = (sampleRateHz: number): Float32Array => {
  const lengthS = 0.012;
  return Float32Array.from({ length: Math.round(lengthS * sampleRateHz) }, (_, n) => {
    const t = n / sampleRateHz;
    const phase = 2 * Math.PI * (1000 * t + (5000 * t * t) / (2 * lengthS));
    return 0.5 * Math.sin(phase) * Math.sin((Math.PI * t) / lengthS) ** 2;
  });
};

/** The way from loudspeaker to capture, or why it cannot be told. */
export type Calibration =
  | { ok: true; latencyS: number; spreadMs: number; found: number }
  | { ok: false; reason: 'silence' | 'not-found' | 'clipped' | 'unsteady'; sentence: string };

/** A burst is found where the recording resembles it this closely (normalised correlation). */
const RESEMBLES = 0.45;
const MIN_FOUND = 6;
const MAX_SPREAD_MS = 2;
const SILENCE = 1e-4;

const SENTENCES = {
  silence: 'The microphone brought no sound at all. Check that it is the right one and not muted, then try again.',
  'not-found':
    'The burst was not heard clearly. Put the headphone against the microphone or turn the loudspeaker up, keep the room quiet, and try again.',
  clipped: 'The burst ran into the input’s limit. Turn the loudspeaker or the input down a little and try again.',
  unsteady:
    'The delay was not the same from burst to burst, so it is not kept. Wireless headphones do this; a cable does not. Close other programs and try again.',
} as const;

const refuse = (reason: keyof typeof SENTENCES): Calibration => ({ ok: false, reason, sentence: SENTENCES[reason] });

/** Where a burst begins after `from`, in samples with fractions, by normalised cross-correlation; null where nothing resembles it. */
const findBurst = (samples: Float32Array, burst: Float32Array, from: number, reach: number): number | null => {
  const burstPower = burst.reduce((sum, value) => sum + value * value, 0);
  const scores = new Float64Array(reach);
  let power = 0;
  for (let n = 0; n < burst.length; n += 1) power += (samples[from + n] ?? 0) ** 2;
  for (let lag = 0; lag < reach; lag += 1) {
    let product = 0;
    for (let n = 0; n < burst.length; n += 1) product += (samples[from + lag + n] ?? 0) * (burst[n] as number);
    scores[lag] = product / Math.sqrt(burstPower * Math.max(power, 1e-12) + 1e-18);
    power += (samples[from + lag + burst.length] ?? 0) ** 2 - (samples[from + lag] ?? 0) ** 2;
  }
  let best = 0;
  for (let lag = 1; lag < reach; lag += 1) if (Math.abs(scores[lag] as number) > Math.abs(scores[best] as number)) best = lag;
  return Math.abs(scores[best] as number) < RESEMBLES ? null : best;
};

/**
 * The latency from a loopback recording: `samples` begin when the first burst's count began, bursts were played at `frames` of
 * it. The median of the delays; refused, with the reason, where too few bursts are found or their delays differ by more
 * than 2 ms (from the earliest to the latest, one stray burst in five left out).
 */
export const calibrate = (samples: Float32Array, frames: readonly number[], sampleRateHz: number): Calibration => {
  if (samples.every((value) => Math.abs(value) < SILENCE)) return refuse('silence');
  if (countClipped(samples) > 0) return refuse('clipped');
  const burst = calibrationBurst(sampleRateHz);
  const reach = Math.round(CALIBRATION.longestS * sampleRateHz);
  const delays = frames.map((frame) => findBurst(samples, burst, frame, reach)).filter((delay) => delay !== null);
  if (delays.length < MIN_FOUND) return refuse('not-found');
  const centre = median(delays);
  const nearest = [...delays]
    .sort((a, b) => Math.abs(a - centre) - Math.abs(b - centre))
    .slice(0, Math.ceil(0.8 * delays.length));
  const spreadMs = ((Math.max(...nearest) - Math.min(...nearest)) / sampleRateHz) * 1000;
  if (spreadMs > MAX_SPREAD_MS) return refuse('unsteady');
  return { ok: true, latencyS: centre / sampleRateHz, spreadMs, found: delays.length };
};
