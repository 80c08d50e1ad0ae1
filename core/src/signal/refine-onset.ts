import { ATTACK_TIMER_WEIGHTS } from './attack-timer-weights';
import { changePoint } from './change-point';
import { FAMILIES, type Family } from './families';
import { burg, predictionError } from './linear-prediction';
import { loadPerceptron, unpackPerceptron } from './perceptron';
import { powerDb, powerOf } from './power';

/** Around where the note is thought to begin: the stretch searched for the onset, in seconds. */
const SEARCH_BEFORE_S = 0.022;
export const SEARCH_AFTER_S = 0.018;
/** The stretch before the search from which the ringing sound is learnt. */
const LEARN_S = 0.025;
/** Samples before and after the coarse place that {@link refineOnset} looks at, in seconds. */
export const REFINE_BEFORE_S = SEARCH_BEFORE_S + LEARN_S;
const ORDER = 16;

/** An attack steps up at least this far in what prediction cannot explain; less is a slow rise. */
const SHARP_STEP_DB = 6;
const STEP_S = 0.005;
/** The change point is believed where it agrees with the shape of the attack to within this. */
const AGREE_S = 0.0025;
/** Below this rate the shape is too coarse to contradict it. */
const SHAPE_RATE_HZ = 32_000;

/** The shape of an attack: levels in pieces of a millisecond, of the sound and of what prediction cannot explain. */
const PIECE_S = 0.001;
const PIECES = Math.round((SEARCH_BEFORE_S + SEARCH_AFTER_S) / PIECE_S);
const ATTACK_FEATURES = 2 * PIECES;
const FLOOR_DB = -60;
/** Unit of the perceptron's second output. */
const SHIFT_UNIT_S = 0.02;

const timer = loadPerceptron(unpackPerceptron(ATTACK_TIMER_WEIGHTS));

/** What prediction from the sound before cannot explain, over the search stretch; and where that begins in `samples`. */
interface Residue {
  error: Float64Array;
  from: number;
}

const residueAround = (samples: Float32Array, coarse: number, sampleRateHz: number): Residue => {
  const from = Math.max(0, coarse - Math.round(SEARCH_BEFORE_S * sampleRateHz));
  const to = Math.min(samples.length, coarse + Math.round(SEARCH_AFTER_S * sampleRateHz));
  const learn = samples.subarray(Math.max(0, from - Math.round(LEARN_S * sampleRateHz)), from);
  const coefficients = learn.length > 4 * ORDER ? burg(learn, ORDER) : Float64Array.of(1, -1);
  const start = Math.max(0, from - (coefficients.length - 1));
  const error = predictionError(samples.subarray(start, to), coefficients);
  return { error, from: start + coefficients.length - 1 };
};

/** Levels of a stretch in pieces, from the loudest piece down to the floor as 1 … 0. */
const shape = (sound: Float32Array | Float64Array, sampleRateHz: number, into: Float32Array, at: number): void => {
  const piece = PIECE_S * sampleRateHz;
  let loudest = FLOOR_DB * 2;
  for (let k = 0; k < PIECES; k += 1) {
    const level = powerDb(powerOf(sound.subarray(Math.round(k * piece), Math.round((k + 1) * piece))));
    into[at + k] = level;
    if (level > loudest) loudest = level;
  }
  for (let k = 0; k < PIECES; k += 1) into[at + k] = Math.max(0, 1 - ((into[at + k] as number) - loudest) / FLOOR_DB);
};

const featuresOf = (
  samples: Float32Array,
  { error, from }: Residue,
  sampleRateHz: number,
  family: Family | null,
): Float32Array => {
  const features = new Float32Array(ATTACK_FEATURES + FAMILIES.length);
  shape(error, sampleRateHz, features, 0);
  shape(samples.subarray(from, from + error.length), sampleRateHz, features, PIECES);
  if (family) features[ATTACK_FEATURES + FAMILIES.indexOf(family)] = 1;
  return features;
};

/** The shape of the attack around a coarse place, as {@link refineOnset} sees it: what the timer is trained on. */
export const attackFeatures = (
  samples: Float32Array,
  coarse: number,
  sampleRateHz: number,
  family: Family | null,
): Float32Array => featuresOf(samples, residueAround(samples, coarse, sampleRateHz), sampleRateHz, family);

/** Where a note begins, as a sample index, and whether its attack was sharp enough to be timed by its change point. */
export interface Refined {
  at: number;
  isSharp: boolean;
}

/** How far the power rises at a sample, comparing 5 ms before with 5 ms after, in dB. */
const stepDb = (error: Float64Array, at: number, sampleRateHz: number): number => {
  const reach = Math.round(STEP_S * sampleRateHz);
  const after = powerOf(error.subarray(at, at + reach));
  const before = powerOf(error.subarray(Math.max(0, at - reach), at));
  return 10 * Math.log10((after + 1e-16) / (before + 1e-16));
};

/**
 * The physical onset of a note, near a coarse place. What rang before is learnt by linear prediction and taken out; a small
 * perceptron, trained on sampled instruments at known times, reads the onset from the shape of what remains. Where the
 * attack is sharp, the change point of the remainder gives it to well under a millisecond. The same for every note.
 *
 * `coarse` is the sample index in `samples` where the note is thought to begin.
 */
export const refineOnset = (samples: Float32Array, coarse: number, sampleRateHz: number, family: Family | null): Refined => {
  const residue = residueAround(samples, coarse, sampleRateHz);
  const [, shift = 0] = timer(featuresOf(samples, residue, sampleRateHz, family));
  const shaped = coarse + shift * SHIFT_UNIT_S * sampleRateHz;
  const at = changePoint(residue.error, Math.round(0.001 * sampleRateHz));
  const sharp = residue.from + at;
  const agrees = sampleRateHz < SHAPE_RATE_HZ || Math.abs(sharp - shaped) <= AGREE_S * sampleRateHz;
  const isSharp = agrees && stepDb(residue.error, at, sampleRateHz) >= SHARP_STEP_DB;
  return { at: Math.round(isSharp ? sharp : shaped), isSharp };
};

/** Level of an attack: the root mean square of its first 20 ms, in dB relative to full scale. */
export const attackLevelDb = (attack: Float32Array): number => powerDb(powerOf(attack));
