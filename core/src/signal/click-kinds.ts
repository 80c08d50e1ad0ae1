import { powerOf } from './power';

/** Two clicks sound alike when what differs between them is weaker than this share of the louder one's power. */
const ALIKE = 0.1;
const NAMES = 'abcdefgh';

const energyOfDifference = (a: Float32Array, b: Float32Array): number => {
  let sum = 0;
  for (let n = 0; n < a.length; n += 1) sum += ((a[n] as number) - (b[n] ?? 0)) ** 2;
  return sum / Math.max(1, a.length);
};

/**
 * Sorts clicks of unknown sound into kinds by how they were heard: each joins the first kind whose first member it
 * resembles in shape and level. `frames` are where each click is heard, `length` how many samples are compared. Returns one
 * name a click.
 */
export const clickKinds = (samples: Float32Array, frames: readonly number[], length: number): string[] => {
  const models: Float32Array[] = [];
  return frames.map((frame) => {
    const heard = samples.subarray(Math.max(0, frame), frame + length);
    const power = powerOf(heard);
    let kind = models.findIndex((model) => energyOfDifference(model, heard) < ALIKE * Math.max(power, powerOf(model)));
    if (kind < 0 && models.length < NAMES.length) kind = models.push(heard) - 1;
    return NAMES[Math.max(0, kind)] as string;
  });
};

/** The kind whose heard waveform leaves least behind when it is taken out at `frame`. */
export const likeliestKind = (
  samples: Float32Array,
  frame: number,
  templates: ReadonlyMap<string, Float32Array>,
  length: number,
): string | null => {
  let best: string | null = null;
  let least = Number.POSITIVE_INFINITY;
  const heard = samples.subarray(frame, frame + length);
  for (const [kind, template] of templates) {
    const rest = energyOfDifference(heard, template);
    if (rest < least) {
      least = rest;
      best = kind;
    }
  }
  return best;
};
