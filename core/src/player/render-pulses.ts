import { chance } from '../stats/random';
import type { PlayedNote } from './simulate';

/** How far the simulated player's vibrato swings, in semitones to either side. */
const SWING = 0.4;

/**
 * Renders pulses as the pitch of one held note: it is highest where each was played, and lowest half way between. `lengthS` seconds, at a
 * level of `noiseDb` of noise.
 */
export const renderPulses = (options: {
  played: readonly PlayedNote[];
  hz: number;
  sampleRateHz: number;
  lengthS: number;
  seed: number;
  noiseDb: number;
}): Float32Array => {
  const { played, hz, sampleRateHz, lengthS, seed, noiseDb } = options;
  const { normal } = chance(seed);
  const times = played.map(({ timeS }) => timeS).sort((a, b) => a - b);
  const sound = new Float32Array(Math.round(lengthS * sampleRateHz));
  const [first = 0] = times;
  const last = times.at(-1) ?? 0;
  const usual = times.length > 1 ? (last - first) / (times.length - 1) : 0.5;
  const noise = 10 ** (noiseDb / 20);
  let phase = 0;
  let next = 0;
  for (let n = 0; n < sound.length; n += 1) {
    const t = n / sampleRateHz;
    while (next < times.length && (times[next] as number) <= t) next += 1;
    const before = next > 0 ? (times[next - 1] as number) : first - usual;
    const after = times[next] ?? last + usual;
    const isHeld = t > first - usual && t < last + usual;
    const wave = Math.cos((2 * Math.PI * (t - before)) / Math.max(1e-3, after - before));
    phase += (2 * Math.PI * hz * 2 ** ((isHeld ? SWING * wave : 0) / 12)) / sampleRateHz;
    const fade = Math.max(0, Math.min(1, (t - (first - usual)) / 0.05, (last + usual - t) / 0.05));
    sound[n] = 0.25 * fade * (Math.sin(phase) + 0.4 * Math.sin(2 * phase) + 0.2 * Math.sin(3 * phase)) + noise * normal();
  }
  return sound;
};
