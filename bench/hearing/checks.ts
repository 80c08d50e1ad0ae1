/** Recordings to check hearing by: one thing made hard at a time, each note's onset known. */
import { type Chance, chance, mixInto } from '@isochron/core/analysis';
import { peakOf } from '../onsets/corpus';
import { RATE } from '../onsets/notes';
import { canBeHeard } from './masking';
import type { SourceNote } from './sources';
import { addNoise, gesture, inRoom, type Noise } from './surroundings';

/** How a check makes its recordings. */
export interface Check {
  name: string;
  /** How far notes ring into the next, in seconds; less than none leaves a silence. */
  overlapS: number;
  rangeDb: number;
  noise?: readonly [Noise, snrDb: number];
  reverbS?: number;
  vibratoCents?: number;
  /** Sounds that are no notes, a third as many as notes, at this level under the notes. */
  gesturesDb?: number;
  /** Peak of the recording, in dBFS. */
  levelDb?: number;
}

/** One recording: its sound, the true onsets with each note's attack time, and when it made sounds that are no notes. */
export interface Checked {
  sound: Float32Array;
  onsetsS: number[];
  attacksS: number[];
  /** MIDI numbers of the notes. */
  pitches: number[];
  /** Whether each could be heard to begin, from its clean part; absent where what else sounds is not known (in a room). */
  heard?: boolean[];
  gesturesS: number[];
}

const NOTES = 24;
const RELEASE_S = 0.02;

/** A note at its own speed or with vibrato, to a length, with a short release. */
const sounding = ({ samples }: SourceNote, lengthS: number, cents: number, random: Chance): Float32Array => {
  const hz = 4 + 4 * random.uniform();
  const out = new Float32Array(Math.min(Math.round((lengthS + RELEASE_S) * RATE), samples.length - 2));
  let at = 0;
  for (let n = 0; n < out.length; n += 1) {
    const whole = Math.min(samples.length - 2, Math.floor(at));
    const rest = at - whole;
    out[n] = (samples[whole] as number) * (1 - rest) + (samples[whole + 1] as number) * rest;
    at += cents ? 2 ** ((cents * Math.sin((2 * Math.PI * hz * n) / RATE)) / 1200) : 1;
  }
  const release = Math.round(RELEASE_S * RATE);
  for (let n = 0; n < release && n < out.length; n += 1)
    out[out.length - 1 - n] = (out[out.length - 1 - n] as number) * (n / release);
  return out;
};

/** Makes one recording of an instrument's notes. `intervalS` is the time from note to note. */
export const makeCheck = (notes: readonly SourceNote[], check: Check, intervalS: number, seed: number): Checked => {
  const random = chance(seed);
  const startS = 0.4;
  let sound: Float32Array = new Float32Array(Math.round((startS + NOTES * intervalS + 1.2) * RATE));
  const byPitch = [...notes].sort((a, b) => a.pitch - b.pitch);
  let place = Math.floor(random.uniform() * byPitch.length);
  const onsetsS: number[] = [];
  const attacksS: number[] = [];
  const pitches: number[] = [];
  const gesturesS: number[] = [];
  const alone: Float32Array[] = [];
  for (let k = 0; k < NOTES; k += 1) {
    const step = random.uniform() < 0.5 ? 1 : byPitch.length - 1;
    place = (place + step) % byPitch.length;
    const note = byPitch[place] as SourceNote;
    const timeS = startS + k * intervalS + 0.004 * random.normal();
    const frame = Math.round(timeS * RATE);
    const gain =
      (0.4 / peakOf(note.samples.subarray(0, Math.round(0.6 * RATE)))) * 10 ** ((-check.rangeDb * random.uniform()) / 20);
    const samples = sounding(note, intervalS + check.overlapS, check.vibratoCents ?? 0, random);
    mixInto(sound, 0, { frame, samples, gain });
    alone.push(samples.map((value) => gain * value));
    onsetsS.push(frame / RATE);
    attacksS.push(note.attackS);
    pitches.push(note.pitch);
    if (check.gesturesDb !== undefined && k % 3 === 1) {
      const atS = timeS + (0.35 + 0.3 * random.uniform()) * intervalS;
      gesturesS.push(atS);
      mixInto(sound, 0, { frame: Math.round(atS * RATE), samples: gesture(random), gain: 0.4 * 10 ** (check.gesturesDb / 20) });
    }
  }
  if (check.reverbS) sound = inRoom(sound, random, check.reverbS, 3);
  if (check.noise) sound = addNoise(sound, check.noise[0], check.noise[1], random);
  else sound = addNoise(sound, 'white', 65, random);
  const heard = alone.map((own, k) => {
    const frame = Math.round((onsetsS[k] as number) * RATE);
    return canBeHeard(
      own,
      sound.slice(frame, frame + own.length).map((value, n) => value - (own[n] ?? 0)),
    );
  });
  const scale = 10 ** ((check.levelDb ?? -3) / 20) / peakOf(sound);
  return {
    sound: sound.map((value) => Math.round(value * scale * 2 ** 15) / 2 ** 15),
    onsetsS,
    attacksS,
    pitches,
    gesturesS,
    ...(check.reverbS ? {} : { heard }),
  };
};

const RINGING = { overlapS: 0.06, rangeDb: 20 };
const APART = { overlapS: -0.05, rangeDb: 12 };

/** What is checked, in the order of the table. */
export const CHECKS: readonly Check[] = [
  { name: 'separate', ...APART },
  { name: 'separate, pink noise 40 dB', ...APART, noise: ['pink', 40] },
  { name: 'separate, pink noise 30 dB', ...APART, noise: ['pink', 30] },
  { name: 'ringing 60 ms, 20 dB', ...RINGING },
  ...[-20, -40, -50, -60].map((levelDb) => ({ name: `separate, peak ${levelDb} dBFS`, ...APART, levelDb })),
  { name: 'vibrato ±50 cents', ...APART, vibratoCents: 50 },
  { name: 'room 0.4 s', ...APART, reverbS: 0.4 },
  { name: 'room 1 s', ...APART, reverbS: 1 },
  { name: 'babble 15 dB', ...APART, noise: ['babble', 15] },
  { name: 'gestures −25 dB', ...APART, gesturesDb: -25 },
];

/** Times are held together by how far off they are said to be, in ms: from, to. */
export const SAID_MS = [
  [0, 1],
  [1, 2],
  [2, 4],
  [4, 8],
  [8, 99],
] as const;
