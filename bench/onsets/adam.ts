import { chance, type Layer, type Perceptron } from '@isochron/core/analysis';

/** One training example. `shiftMs` counts only where the candidate is a note. */
export interface Example {
  features: Float32Array;
  isNote: boolean;
  shiftMs: number;
}

/** The shift output is trained in units of this. */
const SHIFT_UNIT_MS = 20;
const SHIFT_WEIGHT = 2;
const DECAY = 1e-4;

interface Moments {
  layer: Layer;
  gradient: Float32Array;
  first: Float32Array;
  second: Float32Array;
}

const randomLayer = (inputs: number, outputs: number, normal: () => number): Layer => ({
  inputs,
  outputs,
  weights: Float32Array.from({ length: inputs * outputs }, () => normal() * Math.sqrt(2 / inputs)),
  biases: new Float32Array(outputs),
});

/**
 * Trains a perceptron with two outputs (log-odds of a note, its shift) on standardised features by Adam.
 * Loss: cross-entropy, and for notes the absolute error of the shift. Source: Kingma & Ba, ICLR 2015.
 */
export const train = (
  examples: readonly Example[],
  options: {
    hidden: readonly number[];
    epochs: number;
    seed: number;
    /** Goes on from these layers, in smaller steps; for standardised features. */
    from?: Perceptron;
    onEpoch?: (epoch: number, loss: number) => void;
  },
): Perceptron => {
  const { hidden, epochs, seed, from: start, onEpoch } = options;
  const { normal, uniform } = chance(seed);
  const width = examples[0]?.features.length ?? 0;
  const sizes = [width, ...hidden, 2];
  const layers = start ?? sizes.slice(1).map((outputs, k) => randomLayer(sizes[k] as number, outputs, normal));
  const firstRate = start ? 0.0008 : 0.002;
  const states: Moments[] = layers.map((layer) => {
    const size = layer.weights.length + layer.biases.length;
    return { layer, gradient: new Float32Array(size), first: new Float32Array(size), second: new Float32Array(size) };
  });
  const order = examples.map((_, k) => k);
  const batch = 64;
  let step = 0;
  for (let epoch = 0; epoch < epochs; epoch += 1) {
    for (let k = order.length - 1; k > 0; k -= 1) {
      const other = Math.floor(uniform() * (k + 1));
      [order[k], order[other]] = [order[other] as number, order[k] as number];
    }
    const rate = firstRate * 0.5 * (1 + Math.cos((Math.PI * epoch) / epochs));
    let loss = 0;
    for (let from = 0; from < order.length; from += batch) {
      const part = order.slice(from, from + batch);
      for (const state of states) state.gradient.fill(0);
      for (const k of part) loss += learnFrom(states, examples[k] as Example);
      step += 1;
      for (const state of states) adamStep(state, { rate, step, count: part.length });
    }
    onEpoch?.(epoch, loss / examples.length);
  }
  return layers;
};

/** Adds one example's gradient; returns its loss. */
const learnFrom = (states: readonly Moments[], { features, isNote, shiftMs }: Example): number => {
  const activations: Float32Array[] = [features];
  states.forEach(({ layer: { inputs, outputs, weights, biases } }, depth) => {
    const input = activations[depth] as Float32Array;
    const next = new Float32Array(outputs);
    for (let unit = 0; unit < outputs; unit += 1) {
      let sum = biases[unit] as number;
      for (let n = 0; n < inputs; n += 1) sum += (weights[unit * inputs + n] as number) * (input[n] as number);
      next[unit] = depth < states.length - 1 && sum < 0 ? 0 : sum;
    }
    activations.push(next);
  });
  const [logOdds = 0, shift = 0] = activations.at(-1) as Float32Array;
  const chanceOfNote = 1 / (1 + Math.exp(-logOdds));
  const error = shift - shiftMs / SHIFT_UNIT_MS;
  let delta = Float32Array.of(chanceOfNote - (isNote ? 1 : 0), isNote ? SHIFT_WEIGHT * Math.tanh(error / 0.1) : 0);
  for (let depth = states.length - 1; depth >= 0; depth -= 1) {
    const { layer, gradient } = states[depth] as Moments;
    const { inputs, outputs, weights } = layer;
    const input = activations[depth] as Float32Array;
    const back = new Float32Array(depth > 0 ? inputs : 0);
    for (let unit = 0; unit < outputs; unit += 1) {
      const d = delta[unit] as number;
      if (d === 0) continue;
      const row = unit * inputs;
      for (let n = 0; n < inputs; n += 1) {
        gradient[row + n] = (gradient[row + n] as number) + d * (input[n] as number);
        if (depth > 0) back[n] = (back[n] as number) + d * (weights[row + n] as number);
      }
      gradient[weights.length + unit] = (gradient[weights.length + unit] as number) + d;
    }
    for (let n = 0; n < back.length; n += 1) if ((input[n] as number) <= 0) back[n] = 0;
    delta = back;
  }
  const odds = isNote ? -logOdds : logOdds;
  return Math.log1p(Math.exp(-Math.abs(odds))) + Math.max(0, odds) + (isNote ? SHIFT_WEIGHT * Math.abs(error) : 0);
};

const adamStep = (state: Moments, { rate, step, count }: { rate: number; step: number; count: number }) => {
  const { layer, gradient, first, second } = state;
  const { weights, biases } = layer;
  const correct = Math.sqrt(1 - 0.999 ** step) / (1 - 0.9 ** step);
  for (let n = 0; n < gradient.length; n += 1) {
    const isWeight = n < weights.length;
    const value = (isWeight ? weights[n] : biases[n - weights.length]) as number;
    const g = (gradient[n] as number) / count + (isWeight ? DECAY * value : 0);
    first[n] = 0.9 * (first[n] as number) + 0.1 * g;
    second[n] = 0.999 * (second[n] as number) + 0.001 * g * g;
    const moved = value - (rate * correct * (first[n] as number)) / (Math.sqrt(second[n] as number) + 1e-8);
    if (isWeight) weights[n] = moved;
    else biases[n - weights.length] = moved;
  }
};

/** Mean and spread of each feature, and the examples brought to mean 0 and spread 1. */
export const standardise = (examples: readonly Example[]) => {
  const width = examples[0]?.features.length ?? 0;
  const mean = new Float64Array(width);
  const square = new Float64Array(width);
  for (const { features } of examples) {
    features.forEach((value, n) => {
      mean[n] = (mean[n] as number) + value / examples.length;
      square[n] = (square[n] as number) + (value * value) / examples.length;
    });
  }
  const spread = square.map((value, n) => Math.sqrt(Math.max(1e-8, value - (mean[n] as number) ** 2)) || 1);
  for (const { features } of examples)
    for (let n = 0; n < width; n += 1) features[n] = ((features[n] as number) - (mean[n] as number)) / (spread[n] as number);
  return { mean, spread };
};

/** Undoes {@link foldIn}: layers for raw features become layers for standardised ones. */
export const unfold = ([first, ...rest]: Perceptron, mean: Float64Array, spread: Float64Array): Perceptron => {
  const { inputs, outputs, weights, biases } = first as Layer;
  const shifted = biases.map((bias, unit) => {
    let sum = bias;
    for (let n = 0; n < inputs; n += 1) sum += (weights[unit * inputs + n] as number) * (mean[n] as number);
    return sum;
  });
  return [
    { inputs, outputs, weights: weights.map((weight, n) => weight * (spread[n % inputs] as number)), biases: shifted },
    ...rest,
  ];
};

/** Folds the standardisation into the first layer, so that raw features can be given. */
export const foldIn = ([first, ...rest]: Perceptron, mean: Float64Array, spread: Float64Array): Perceptron => {
  const { inputs, outputs, weights, biases } = first as Layer;
  const folded = weights.map((weight, n) => weight / (spread[n % inputs] as number));
  const shifted = biases.map((bias, unit) => {
    let sum = bias;
    for (let n = 0; n < inputs; n += 1) sum -= (folded[unit * inputs + n] as number) * (mean[n] as number);
    return sum;
  });
  return [{ inputs, outputs, weights: folded, biases: shifted }, ...rest];
};

/** The perceptron with its first output, the log-odds, scaled and shifted. */
export const scaleOdds = (layers: Perceptron, scale: number, shift: number): Perceptron => {
  const last = layers.at(-1) as Layer;
  const weights = last.weights.map((weight, n) => (n < last.inputs ? weight * scale : weight));
  const biases = last.biases.map((bias, unit) => (unit === 0 ? bias * scale + shift : bias));
  return [...layers.slice(0, -1), { ...last, weights, biases }];
};
