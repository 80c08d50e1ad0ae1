import { mixInto } from '../signal/mix';
import { chance } from '../stats/random';

/** How the layers of an invented accompaniment sit on the beat: places in quarters of a beat, and how often each sounds. */
export const ACCOMPANIMENT_STYLES = {
  'on every beat': {
    low: [[0, 1]],
    noise: [
      [0, 0.5],
      [2, 0.4],
    ],
    note: [
      [0, 0.9],
      [2, 0.6],
    ],
  },
  'off-beats and gaps': {
    low: [
      [0, 0.8],
      [3, 0.25],
    ],
    noise: [[2, 0.8]],
    note: [
      [0, 0.5],
      [1, 0.2],
      [2, 0.5],
      [3, 0.3],
    ],
  },
  'notes alone': {
    low: [],
    noise: [],
    note: [
      [0, 0.9],
      [1, 0.45],
      [2, 0.7],
      [3, 0.45],
    ],
  },
} as const;

export type AccompanimentStyle = keyof typeof ACCOMPANIMENT_STYLES;
type Layer = keyof (typeof ACCOMPANIMENT_STYLES)[AccompanimentStyle];

/** One struck sound: a low drum, a noise, or a note with a few harmonics. */
const strike = (layer: Layer, hz: number, rateHz: number, random: ReturnType<typeof chance>): Float32Array =>
  Float32Array.from({ length: Math.round(0.35 * rateHz) }, (_, n) => {
    const t = n / rateHz;
    if (layer === 'noise') return 0.5 * random.normal() * Math.exp(-t / 0.03);
    if (layer === 'low') return Math.sin(2 * Math.PI * (60 + 60 * Math.exp(-t / 0.02)) * t) * Math.exp(-t / 0.1);
    return (
      [1, 0.5, 0.25].reduce((sum, gain, k) => sum + gain * Math.sin(2 * Math.PI * hz * (k + 1) * t), 0) *
      Math.min(1, t / 0.004) *
      Math.exp(-t / 0.25) *
      0.5
    );
  });

/** Beats at a tempo that goes by shares of itself, from the first beat to shortly before the end; in seconds. */
export const inventBeats = (options: {
  bpm: number;
  firstS: number;
  lengthS: number;
  share?: (timeS: number) => number;
}): number[] => {
  const { bpm, firstS, lengthS, share = () => 1 } = options;
  const beats: number[] = [];
  for (let timeS = firstS; timeS < lengthS - 0.6; timeS += 60 / (bpm * share(timeS))) beats.push(timeS);
  return beats;
};

/** An accompaniment of several layers at known beats, each stroke a few milliseconds off by chance. */
export const inventAccompaniment = (options: {
  beatsS: readonly number[];
  style: AccompanimentStyle;
  lengthS: number;
  rateHz: number;
  seed: number;
}): Float32Array => {
  const { beatsS, style, lengthS, rateHz, seed } = options;
  const random = chance(seed);
  const sound = Float32Array.from({ length: Math.round(lengthS * rateHz) }, () => 0.001 * random.normal());
  const layers = Object.entries(ACCOMPANIMENT_STYLES[style]) as [Layer, readonly (readonly [number, number])[]][];
  beatsS.forEach((beatS, k) => {
    const next = beatsS[k + 1] ?? 2 * beatS - (beatsS[k - 1] ?? beatS - 0.5);
    for (const [layer, places] of layers)
      for (const [place, often] of places) {
        if (random.uniform() > often) continue;
        const atS = beatS + ((next - beatS) * place) / 4 + 0.006 * random.normal();
        const gain = (place === 0 ? 0.3 : 0.2) * 10 ** ((-8 * random.uniform()) / 20) * (k % 4 === 0 ? 1.3 : 1);
        mixInto(sound, 0, {
          frame: Math.round(atS * rateHz),
          samples: strike(layer, 196 * 2 ** (Math.floor(12 * random.uniform()) / 12), rateHz, random),
          gain,
        });
      }
  });
  return sound;
};
