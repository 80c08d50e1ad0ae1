/** What stands between a player and a recording: rooms, microphones, noises. Everything is made up, from a seed. */
import type { Chance } from '@isochron/core/analysis';
import { peakOf } from '../onsets/corpus';
import { RATE } from '../onsets/notes';
import { convolve } from './convolve';
import { between, logBetween } from './draw';

/** Root mean square of a sound. */
export const rms = (sound: Float32Array): number =>
  Math.sqrt(sound.reduce((sum, value) => sum + value * value, 0) / Math.max(1, sound.length));

type Section = readonly [b0: number, b1: number, b2: number, a1: number, a2: number];

/** Runs a second-order section over a sound, in place. */
const filterBy = (sound: Float32Array, [b0, b1, b2, a1, a2]: Section): Float32Array => {
  let x1 = 0;
  let x2 = 0;
  let y1 = 0;
  let y2 = 0;
  for (let n = 0; n < sound.length; n += 1) {
    const x = sound[n] as number;
    const y = b0 * x + b1 * x1 + b2 * x2 - a1 * y1 - a2 * y2;
    x2 = x1;
    x1 = x;
    y2 = y1;
    y1 = y;
    sound[n] = y;
  }
  return sound;
};

/** Second-order sections as in Bristow-Johnson's "Cookbook formulae for audio EQ biquad filter coefficients". */
const section = (kind: 'low' | 'high' | 'band', hz: number, q: number): Section => {
  const w = (2 * Math.PI * Math.min(hz, 0.45 * RATE)) / RATE;
  const alpha = Math.sin(w) / (2 * q);
  const cos = Math.cos(w);
  const a0 = 1 + alpha;
  const [b0, b1, b2] = {
    low: [(1 - cos) / 2, 1 - cos, (1 - cos) / 2],
    high: [(1 + cos) / 2, -(1 + cos), (1 + cos) / 2],
    band: [alpha, 0, -alpha],
  }[kind] as [number, number, number];
  return [b0 / a0, b1 / a0, b2 / a0, (-2 * cos) / a0, (1 - alpha) / a0];
};

/** A room's answer without the direct sound, which comes first: early echoes, then noise that dies away, darker as it does. */
const roomAnswer = (random: Chance, reverbS: number): Float32Array => {
  const length = Math.round(Math.min(1.2 * reverbS, 2) * RATE);
  const answer = new Float32Array(length);
  const from = Math.round(between(random, 0.002, 0.02) * RATE);
  for (let n = from; n < length; n += 1) answer[n] = random.normal() * 10 ** ((-3 * n) / (reverbS * RATE));
  for (let echo = 0; echo < 6; echo += 1)
    answer[Math.min(length - 1, from + Math.round(between(random, 0, 0.03) * RATE))] = 8 * random.normal();
  return filterBy(answer, section('low', logBetween(random, 2000, 9000), 0.6));
};

/** Puts a sound into a room: reverberation time in seconds, and how far the direct sound stands above the room's, in dB. */
export const inRoom = (sound: Float32Array, random: Chance, reverbS: number, directDb: number): Float32Array => {
  const wet = convolve(sound, roomAnswer(random, reverbS));
  const gain = (rms(sound) / Math.max(1e-9, rms(wet))) * 10 ** (-directDb / 20);
  return sound.map((value, n) => value + gain * (wet[n] as number));
};

/** A microphone: edges of its band and a tilt. */
export const throughMicrophone = (sound: Float32Array, random: Chance): Float32Array => {
  filterBy(sound, section('high', logBetween(random, 20, 200), 0.7));
  if (random.uniform() < 0.4) filterBy(sound, section('low', logBetween(random, 3500, 18_000), 0.7));
  if (random.uniform() < 0.5) {
    const band = filterBy(Float32Array.from(sound), section('band', logBetween(random, 150, 6000), 0.7));
    const gain = between(random, -0.6, 1.2);
    for (let n = 0; n < sound.length; n += 1) sound[n] = (sound[n] as number) + gain * (band[n] as number);
  }
  return sound;
};

const white = (length: number, { normal }: Chance): Float32Array => Float32Array.from({ length }, normal);

/** Pink noise: white noise through Kellet's three poles (common practice, from memory). */
const pink = (length: number, random: Chance): Float32Array => {
  let [a, b, c] = [0, 0, 0];
  return white(length, random).map((value) => {
    a = 0.99765 * a + value * 0.099046;
    b = 0.963 * b + value * 0.2965164;
    c = 0.57 * c + value * 1.0526913;
    return a + b + c + value * 0.1848;
  });
};

const hum = (length: number, random: Chance): Float32Array => {
  const hz = random.uniform() < 0.5 ? 50 : 60;
  const parts = [1, 2, 3, 4, 5, 6, 8].map((k) => [k * hz, random.uniform() / k, 6.28 * random.uniform()] as const);
  return Float32Array.from({ length }, (_, n) =>
    parts.reduce((sum, [own, gain, phase]) => sum + gain * Math.sin((2 * Math.PI * own * n) / RATE + phase), 0),
  );
};

/** One who talks: a buzz whose pitch wanders through three resonances that change with every syllable, and hisses between. */
const talker = (length: number, random: Chance): Float32Array => {
  const out = new Float32Array(length);
  let at = Math.round(between(random, 0, 0.5) * RATE);
  let phase = 0;
  const voiceHz = logBetween(random, 90, 240);
  while (at < length) {
    const count = Math.round(between(random, 0.08, 0.3) * RATE);
    const syllable = new Float32Array(count);
    const isVoiced = random.uniform() < 0.75;
    const hz = voiceHz * 2 ** (0.2 * random.normal());
    const bend = between(random, -0.2, 0.2);
    for (let n = 0; n < count; n += 1) {
      phase += (hz * (1 + (bend * n) / count)) / RATE;
      phase -= Math.floor(phase);
      syllable[n] = (isVoiced ? phase - 0.5 : 0.3 * random.normal()) * Math.sin((Math.PI * n) / count) ** 0.6;
    }
    for (const [low, high] of [
      [300, 800],
      [900, 2200],
      [2300, 3400],
    ] as const) {
      const part = filterBy(Float32Array.from(syllable), section('band', between(random, low, high), isVoiced ? 6 : 2));
      for (let n = 0; n < count && at + n < length; n += 1) out[at + n] = (out[at + n] as number) + (part[n] as number);
    }
    at += count + (random.uniform() < 0.2 ? Math.round(between(random, 0.1, 0.6) * RATE) : 0);
  }
  return out;
};

const babble = (length: number, random: Chance): Float32Array => {
  const out = new Float32Array(length);
  for (let one = 0; one < 5; one += 1) {
    const gain = between(random, 0.3, 1);
    talker(length, random).forEach((value, n) => {
      out[n] = (out[n] as number) + gain * value;
    });
  }
  return out;
};

/** Noises of a place, by name. */
export const NOISES = { white, pink, hum, babble } as const;
export type Noise = keyof typeof NOISES;

/** Adds a noise so many dB under the sound's own level (root mean square of its loud half). */
export const addNoise = (sound: Float32Array, noise: Noise, snrDb: number, random: Chance): Float32Array => {
  const made = NOISES[noise](sound.length, random);
  const gain = (rms(sound) * 10 ** (-snrDb / 20)) / Math.max(1e-9, rms(made));
  return sound.map((value, n) => value + gain * (made[n] as number));
};

/** Sounds of a player that are not notes; each with a peak of one. */
const GESTURES: Record<string, (random: Chance) => Float32Array> = {
  breath: (random) => {
    const length = Math.round(between(random, 0.06, 0.3) * RATE);
    const rise = between(random, 0.2, 0.6);
    const sound = white(length, random).map((value, n) => {
      const x = n / length;
      return value * (x < rise ? x / rise : (1 - x) / (1 - rise));
    });
    return filterBy(sound, section('band', logBetween(random, 400, 5000), between(random, 0.4, 1.5)));
  },
  key: (random) => {
    const length = Math.round(between(random, 0.01, 0.04) * RATE);
    const decay = between(random, 0.001, 0.006) * RATE;
    const sound = white(length, random).map((value, n) => value * Math.exp(-n / decay));
    return filterBy(sound, section('band', logBetween(random, 200, 4000), between(random, 0.5, 3)));
  },
  thump: (random) => {
    const hz = logBetween(random, 40, 160);
    const decay = between(random, 0.02, 0.08) * RATE;
    return Float32Array.from(
      { length: Math.round(0.25 * RATE) },
      (_, n) => Math.sin((2 * Math.PI * hz * n) / RATE) * Math.exp(-n / decay) * Math.min(1, n / 200),
    );
  },
  squeak: (random) => {
    const length = Math.round(between(random, 0.04, 0.15) * RATE);
    const fromHz = logBetween(random, 900, 4000);
    const bend = between(random, -0.5, 0.5);
    let phase = 0;
    return Float32Array.from({ length }, (_, n) => {
      phase += (fromHz * 2 ** ((bend * n) / length) * (1 + 0.05 * random.normal())) / RATE;
      return (Math.sin(2 * Math.PI * phase) + 0.6 * random.normal()) * Math.sin((Math.PI * n) / length) ** 2;
    });
  },
};

/** A sound of the player's that is not a note: breath, a key, a pedal, a finger on a string; of one kind, or of any. Peak one. */
export const gesture = (random: Chance, kind?: string): Float32Array => {
  const kinds = Object.values(GESTURES);
  const own = kind ? GESTURES[kind] : kinds[Math.floor(random.uniform() * kinds.length)];
  const sound = (own as (random: Chance) => Float32Array)(random);
  const peak = peakOf(sound);
  return sound.map((value) => value / peak);
};
