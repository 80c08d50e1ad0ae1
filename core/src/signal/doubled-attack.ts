import { DOUBLED_ATTACK_WEIGHTS } from './doubled-attack-weights';
import { loadPerceptron, unpackPerceptron } from './perceptron';
import { powerDb } from './power';
import { nearestSpectrum, spectrumOf } from './spectrum';

/** The stretch that is looked at around an onset, in seconds: a second attack may come before the one that was taken for it. */
export const DOUBLED_BEFORE_S = 0.036;
export const DOUBLED_AFTER_S = 0.064;
const PIECE_S = 0.001;
const PIECES = Math.round((DOUBLED_BEFORE_S + DOUBLED_AFTER_S) / PIECE_S);
const WINDOW_S = 0.00133;
const FLOOR_DB = -50;
/** Bins of the short spectra that are one band each, the last one not counted: higher ones hold less of what rings on. */
const BAND_EDGES = [1, 2, 3, 5, 9, 17, 30];
const BANDS = BAND_EDGES.length - 1;
/** Levels over time in each band, then how loud each band is at its loudest. */
export const DOUBLED_FEATURES = BANDS * PIECES + BANDS;
/** Unit of the perceptron's second output, the gap. */
const GAP_UNIT_S = 0.02;
const judge = loadPerceptron(unpackPerceptron(DOUBLED_ATTACK_WEIGHTS));

/**
 * Levels around an onset, a millisecond each, in six bands, each from its loudest down to the floor as 1 … 0: what is read by
 * {@link doubledAttack}. `samples` begins {@link DOUBLED_BEFORE_S} before the onset.
 */
export const doubledFeatures = (samples: Float32Array, sampleRateHz: number): Float32Array => {
  const features = new Float32Array(DOUBLED_FEATURES);
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
      features[band * PIECES + k] = level;
      loudest[band] = Math.max(loudest[band] as number, level);
    }
  }
  const top = Math.max(...loudest);
  for (let band = 0; band < BANDS; band += 1) {
    const own = loudest[band] as number;
    for (let k = band * PIECES; k < (band + 1) * PIECES; k += 1)
      features[k] = Math.max(0, 1 - ((features[k] as number) - own) / FLOOR_DB);
    features[BANDS * PIECES + band] = Math.max(0, 1 - (own - top) / FLOOR_DB);
  }
  return features;
};

/** What is thought of an attack: how likely it is doubled (natural log-odds), and then the gap in seconds. */
export interface MaybeDoubled {
  logOdds: number;
  gapS: number;
}

/**
 * Whether a note was struck twice within a few hundredths of a second: a stopping finger that comes early or late, two hands out of
 * step, a key that speaks twice. A small perceptron that was trained on single and planted doubled attacks
 * (bench/train-doubled.ts). Some instruments rattle at every attack: it is for whoever asks to compare a note with its neighbours.
 */
export const doubledAttack = (samples: Float32Array, sampleRateHz: number): MaybeDoubled => {
  const [logOdds = 0, gap = 0] = judge(doubledFeatures(samples, sampleRateHz));
  return { logOdds, gapS: Math.max(0, gap * GAP_UNIT_S) };
};
