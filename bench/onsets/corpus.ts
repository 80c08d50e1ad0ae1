import { chance, evenGridNotes, type Family, mixInto } from '@isochron/core/analysis';
import { clickWaveform, constantTempo } from '@isochron/core/material';
import { STEADY } from '@isochron/core/schema';
import { simulatePlaying } from '@isochron/core/simulation';
import type { SampledInstrument } from './instruments';
import { RATE, type SampledNote } from './notes';

/** One recording of the corpus: a sound, the true onsets, and the clicks that are heard in it. */
export interface Recording {
  instrument: SampledInstrument;
  condition: string;
  isLegato: boolean;
  sound: Float32Array;
  onsetsS: number[];
  clicksS: number[];
  /** The grid that was to be played. */
  gridS: number[];
}

export interface Condition {
  name: string;
  bleedDb?: number;
  noiseSnrDb?: number;
  missed?: number;
  extra?: number;
  rangeDb?: number;
  doubled?: boolean;
}

export const CONDITIONS: readonly Condition[] = [
  { name: 'dry' },
  { name: 'bleed −20 dB', bleedDb: -20 },
  { name: 'bleed −6 dB', bleedDb: -6 },
  { name: 'bleed 0 dB', bleedDb: 0 },
  { name: 'bleed +6 dB', bleedDb: 6 },
  { name: 'noise, missed, extra', noiseSnrDb: 30, missed: 0.07, extra: 0.05 },
  { name: 'dynamics 30 dB', rangeDb: 30 },
  { name: 'doubled unisons', doubled: true },
];

/** Tempo (bpm) and notes a beat: 60 to 180 bpm, up to 14 notes a second. */
const FAST = [
  [60, 4],
  [90, 3],
  [120, 4],
  [150, 4],
  [180, 2],
  [140, 6],
  [168, 4],
] as const;
/** Bowed and blown notes take up to 0.3 s to speak in these samples: up to 8 a second, as players would use them. */
const SUSTAINED = [
  [60, 4],
  [90, 3],
  [120, 4],
  [150, 2],
  [180, 2],
  [100, 4],
  [72, 6],
] as const;
const SPEEDS: Record<Family, readonly (readonly [number, number])[]> = {
  struck: FAST,
  plucked: FAST,
  drum: FAST,
  bowed: SUSTAINED,
  blown: SUSTAINED,
  brass: SUSTAINED,
  voice: SUSTAINED,
};
const LEAD_S = 0.25;
const COUNT_BEATS = 4;

/** How a loudspeaker's click reaches the microphone: a delay, then a small room. */
const roomResponse = (seed: number): Float32Array => {
  const { uniform, normal } = chance(seed);
  const delay = Math.round((0.005 + 0.035 * uniform()) * RATE);
  const response = new Float32Array(delay + Math.round(0.06 * RATE));
  response[delay] = 1;
  for (let n = delay + 40; n < response.length; n += 1) {
    if (uniform() < 0.02) response[n] = 0.25 * normal() * Math.exp(-(n - delay) / (0.012 * RATE));
  }
  return response;
};

/** A click that the engine does not know: a short noisy tick, or the product's own sound. */
const foreignClick = (seed: number): Float32Array => {
  if (seed % 2 === 0) return clickWaveform('beat', RATE);
  const { normal, uniform } = chance(seed);
  const hz = 900 + 1600 * uniform();
  return Float32Array.from({ length: Math.round(0.02 * RATE) }, (_, n) => {
    const t = n / RATE;
    return (Math.sin(2 * Math.PI * hz * t) + 0.3 * normal()) * Math.exp(-t / 0.004);
  });
};

const convolve = (wave: Float32Array, response: Float32Array): Float32Array => {
  const out = new Float32Array(wave.length + response.length);
  response.forEach((gain, at) => {
    if (gain !== 0) mixInto(out, 0, { frame: at, samples: wave, gain });
  });
  return out;
};

/** Cuts a sampled note to its sounding length with a short release. */
const cut = (note: Float32Array, lengthS: number, gain: number, releaseS: number): Float32Array => {
  const release = Math.round(releaseS * RATE);
  const length = Math.min(note.length, Math.round(lengthS * RATE) + release);
  const out = note.slice(0, length);
  for (let n = 0; n < release && n < length; n += 1) out[length - 1 - n] = (out[length - 1 - n] as number) * (n / release);
  return out.map((value) => value * gain);
};

/** Loudest sample of a sound; never quite nothing. */
export const peakOf = (sound: Float32Array): number => sound.reduce((most, value) => Math.max(most, Math.abs(value)), 1e-9);

/** Makes one recording: notes of an instrument on a grid, played with small deviations. */
export const makeRecording = (
  instrument: SampledInstrument,
  notes: readonly SampledNote[],
  condition: Condition,
  seed: number,
): Recording => {
  const random = chance(seed);
  const speeds = SPEEDS[instrument.family];
  const [tempoBpm, notesPerBeat] = speeds[Math.floor(random.uniform() * speeds.length)] as readonly [number, number];
  const isLegato = random.uniform() < 0.5;
  const beatS = 60 / tempoBpm;
  const firstS = LEAD_S + COUNT_BEATS * beatS;
  const beats = Math.max(6, Math.round(24 / notesPerBeat));
  const grid = evenGridNotes({ tempoBpm, notesPerBeat, beats, startS: firstS });
  const intervalS = beatS / notesPerBeat;
  const skill = {
    ...STEADY,
    placementMs: 12,
    spreadMs: Math.min(10, 0.07 * intervalS * 1000),
    missedShare: condition.missed ?? 0,
    extraShare: condition.extra ?? 0,
  };
  const played = simulatePlaying(grid, skill, constantTempo(tempoBpm), seed + 1);
  const sound = new Float32Array(Math.round((firstS + beats * beatS + 1) * RATE));
  const pitches = [...new Set(notes.map((one) => one.pitch))];
  const releaseS = 0.01 + 0.06 * random.uniform();
  // Half of what is called legato breathes or lifts a little before the next note.
  const heldShare = random.uniform() < 0.5 ? 1 : 0.85 + 0.15 * random.uniform();
  let pitchAt = Math.floor(random.uniform() * pitches.length);
  for (const [k, note] of played.entries()) {
    // Neighbouring pitches, as a passage has them; never the same twice on a legato instrument.
    const step = random.uniform() < 0.5 ? 1 : pitches.length - 1;
    pitchAt = (pitchAt + step) % pitches.length;
    const pitch = pitches[pitchAt];
    const candidates = notes.filter((one) => one.pitch === pitch);
    const sample = candidates[Math.floor(random.uniform() * candidates.length)] as SampledNote;
    const nextS = played[k + 1]?.timeS ?? note.timeS + intervalS;
    const soundingS = isLegato
      ? heldShare * (nextS - note.timeS)
      : Math.min((0.4 + 0.3 * random.uniform()) * (nextS - note.timeS), 0.4);
    const range = condition.rangeDb ?? 6;
    const gain = (0.5 / peakOf(sample.samples.subarray(0, RATE / 2))) * 10 ** ((-range * random.uniform()) / 20);
    const samples = cut(sample.samples, soundingS, gain, releaseS);
    const frame = Math.round(note.timeS * RATE);
    mixInto(sound, 0, { frame, samples });
    if (condition.doubled) {
      const other = candidates[(candidates.indexOf(sample) + 1) % candidates.length] as SampledNote;
      mixInto(sound, 0, {
        frame: frame + Math.round(0.002 * RATE * random.uniform()),
        samples: cut(other.samples, soundingS, gain * 0.7, releaseS),
      });
    }
  }
  const notePeak = peakOf(sound);
  const clicksS: number[] = [];
  if (condition.bleedDb !== undefined) {
    const heard = convolve(foreignClick(seed), roomResponse(seed + 2));
    const gain = (notePeak / peakOf(heard)) * 10 ** (condition.bleedDb / 20);
    for (let beat = 0; beat < COUNT_BEATS + beats; beat += 1) {
      clicksS.push(LEAD_S + beat * beatS);
      mixInto(sound, 0, { frame: Math.round((LEAD_S + beat * beatS) * RATE), samples: heard, gain });
    }
  }
  const noise = notePeak * 0.35 * 10 ** (-(condition.noiseSnrDb ?? 62) / 20);
  const scale = 0.9 / peakOf(sound);
  for (let n = 0; n < sound.length; n += 1) sound[n] = scale * ((sound[n] as number) + noise * random.normal());
  return {
    instrument,
    condition: condition.name,
    isLegato,
    sound,
    onsetsS: played.map((note) => Math.round(note.timeS * RATE) / RATE),
    clicksS,
    gridS: grid.map((note) => note.timeS),
  };
};
