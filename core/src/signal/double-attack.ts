import { unpackByteLayer } from './byte-layer';
import { DOUBLE_ATTACK_WEIGHTS } from './double-attack-weights';
import { loadPerceptron } from './perceptron';
import { powerDb } from './power';
import { nearestSpectrum, spectrumOf } from './spectrum';

/** The stretch that is looked at around an onset, in seconds: a second attack may come before the one that was taken for it. */
export const DOUBLE_ATTACK_BEFORE_S = 0.036;
export const DOUBLE_ATTACK_AFTER_S = 0.05;
const PIECE_S = 0.001;
const PIECES = Math.round((DOUBLE_ATTACK_BEFORE_S + DOUBLE_ATTACK_AFTER_S) / PIECE_S);
const WINDOW_S = 0.00133;
const FLOOR_DB = -50;
/** Bins of the short spectra that are one band each, the last one not counted: higher ones hold less of what rings on. */
const BAND_EDGES = [0, 2, 5, 11, 30];
const BANDS = BAND_EDGES.length - 1;
/** Levels over time in each band, then how loud each band is at its loudest. */
const SHAPE = BANDS * PIECES + BANDS;
/** So many attacks before it are what is usual. */
const REMEMBERED = 9;
/** The shape of an attack, how it differs from the usual one, and how well that is known. */
const DOUBLE_ATTACK_FEATURES = 2 * SHAPE + 1;
/** Log-odds from which an attack counts as doubled: about one single attack in a hundred does (docs/figures.md). */
export const DOUBLE_ATTACK_LOG_ODDS = 0.25;
/** Unit of the perceptron's second output, the gap. */
const GAP_UNIT_S = 0.02;

const network = loadPerceptron(DOUBLE_ATTACK_WEIGHTS.map(unpackByteLayer));

/** Levels around an onset, a millisecond each, in four bands, each from its loudest down to the floor as 1 … 0. */
const attackShape = (samples: Float32Array, sampleRateHz: number): Float32Array => {
  const shape = new Float32Array(SHAPE);
  const size = nearestSpectrum(WINDOW_S * sampleRateHz);
  const spectrum = spectrumOf(size);
  const piece = PIECE_S * sampleRateHz;
  const loudest = new Float32Array(BANDS).fill(2 * FLOOR_DB);
  for (let k = 0; k < PIECES; k += 1) {
    const at = Math.max(0, Math.min(samples.length - size, Math.round((k + 0.5) * piece - size / 2)));
    const powers = spectrum.powers(samples, at).values();
    for (let band = 0; band < BANDS; band += 1) {
      let sum = 0;
      for (let bin = BAND_EDGES[band] as number; bin < (BAND_EDGES[band + 1] as number); bin += 1) sum += powers[bin] ?? 0;
      const level = powerDb(sum);
      shape[band * PIECES + k] = level;
      loudest[band] = Math.max(loudest[band] as number, level);
    }
  }
  const top = Math.max(...loudest);
  for (let band = 0; band < BANDS; band += 1) {
    const own = loudest[band] as number;
    for (let k = band * PIECES; k < (band + 1) * PIECES; k += 1)
      shape[k] = Math.max(0, 1 - ((shape[k] as number) - own) / FLOOR_DB);
    shape[BANDS * PIECES + band] = Math.max(0, 1 - (own - top) / FLOOR_DB);
  }
  return shape;
};

/** Reads attacks one after the other, in order. */
export interface AttackReader {
  /** The features of the next attack; `samples` begin `DOUBLE_ATTACK_BEFORE_S` before its onset. The row is new. */
  read(samples: Float32Array): Float32Array;
}

/** Makes an {@link AttackReader}, which remembers what attacks usually look like: no two instruments' do alike. */
export const createAttackReader = (sampleRateHz: number): AttackReader => {
  const shapes: Float32Array[] = [];
  const column = new Float32Array(REMEMBERED);
  /** The median of one number of all shapes; sorted by insertion, since this is asked hundreds of times a note. */
  const usual = (k: number): number => {
    for (let n = 0; n < shapes.length; n += 1) {
      const value = (shapes[n] as Float32Array)[k] as number;
      let at = n;
      for (; at > 0 && (column[at - 1] as number) > value; at -= 1) column[at] = column[at - 1] as number;
      column[at] = value;
    }
    return column[shapes.length >> 1] as number;
  };
  return {
    read(samples) {
      const own = attackShape(samples, sampleRateHz);
      const features = new Float32Array(DOUBLE_ATTACK_FEATURES);
      features.set(own);
      for (let k = 0; k < SHAPE && shapes.length > 0; k += 1) features[SHAPE + k] = (own[k] as number) - usual(k);
      features[2 * SHAPE] = shapes.length / REMEMBERED;
      shapes.push(own);
      if (shapes.length > REMEMBERED) shapes.shift();
      return features;
    },
  };
};

/** Before so many attacks were read, nothing is usual. */
const MIN_REMEMBERED = 4;

/** What is thought of an attack: how likely it is doubled (natural log-odds), and then the gap in seconds. */
export interface AttackPair {
  logOdds: number;
  gapS: number;
}

/**
 * Whether a note was struck twice within a few hundredths of a second: a stopping finger that comes early or late, two hands out of
 * step, a key that speaks twice. A small perceptron that was trained on single and planted doubled attacks
 * (bench/train-doubled.ts), from what an {@link AttackReader} reads. Null where it has read too few to know what is usual.
 */
export const doubleAttack = (features: Float32Array): AttackPair | null => {
  if ((features[2 * SHAPE] as number) * REMEMBERED < MIN_REMEMBERED - 0.5) return null;
  const [logOdds = 0, gap = 0] = network(features);
  return { logOdds, gapS: Math.max(0, gap * GAP_UNIT_S) };
};
