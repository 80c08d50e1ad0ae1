/** Mean power of a stretch of sound; 0 for an empty one. */
export const powerOf = (samples: Float32Array | Float64Array): number => {
  let sum = 0;
  for (let n = 0; n < samples.length; n += 1) sum += (samples[n] as number) ** 2;
  return sum / Math.max(1, samples.length);
};

/** The greatest mean power of any piece of `piece` samples, in steps of a piece. */
export const loudestPower = (samples: Float32Array, piece: number): number => {
  let loudest = 0;
  for (let at = 0; at + piece <= samples.length; at += piece)
    loudest = Math.max(loudest, powerOf(samples.subarray(at, at + piece)));
  return loudest;
};

/** Power in decibels relative to full scale; −120 dB for silence. */
export const powerDb = (power: number): number => 10 * Math.log10(power + 1e-12);
