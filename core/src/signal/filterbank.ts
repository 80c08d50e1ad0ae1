/** One band: the weights of its bins, from bin `from` on. */
interface Band {
  from: number;
  weights: Float64Array;
}

export type Filterbank = readonly Band[];

/**
 * Triangular bands spaced evenly in pitch, `bandsPerOctave` to the octave from `lowHz` to `highHz` (or half the sample
 * rate). Low bands narrower than a bin are merged, so each band holds a bin of its own.
 * Source: Böck & Widmer, "Maximum filter vibrato suppression for onset detection", DAFx 2013.
 */
export const createFilterbank = (options: {
  sampleRateHz: number;
  fftSize: number;
  bandsPerOctave: number;
  lowHz: number;
  highHz: number;
}): Filterbank => {
  const { sampleRateHz, fftSize, bandsPerOctave, lowHz, highHz } = options;
  const top = Math.min(highHz, sampleRateHz / 2);
  const centres: number[] = [];
  for (let hz = lowHz; hz <= top; hz *= 2 ** (1 / bandsPerOctave)) {
    const bin = Math.round((hz * fftSize) / sampleRateHz);
    if (bin > (centres.at(-1) ?? 0) && bin < fftSize / 2) centres.push(bin);
  }
  return centres.slice(1, -1).map((centre, k) => {
    const below = centres[k] as number;
    const above = centres[k + 2] as number;
    const weights = Float64Array.from({ length: above - below - 1 }, (_, n) => {
      const bin = below + 1 + n;
      return bin <= centre ? (bin - below) / (centre - below) : (above - bin) / (above - centre);
    });
    return { from: below + 1, weights };
  });
};

/** Sums a spectrum's amplitudes into bands; `into` has one place a band. */
export const applyFilterbank = (bank: Filterbank, magnitudes: Float64Array, into: Float64Array): void => {
  bank.forEach(({ from, weights }, band) => {
    let sum = 0;
    for (let n = 0; n < weights.length; n += 1) sum += (weights[n] as number) * (magnitudes[from + n] as number);
    into[band] = sum;
  });
};
