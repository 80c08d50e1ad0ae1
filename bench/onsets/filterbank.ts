/** Bands over the bins of a spectrum; the weights of all bands lie one after the other. */
export interface Filterbank {
  length: number;
  /** How many bins of the spectrum are needed. */
  bins: number;
  centreHz: readonly number[];
  /** First bin of each band, and where its weights begin; one place more than bands. */
  firstBin: Int32Array;
  firstWeight: Int32Array;
  weights: Float32Array;
}

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
  const bins: number[] = [];
  for (let hz = lowHz; hz <= top; hz *= 2 ** (1 / bandsPerOctave)) {
    const bin = Math.round((hz * fftSize) / sampleRateHz);
    if (bin > (bins.at(-1) ?? 0) && bin < fftSize / 2) bins.push(bin);
  }
  const bands = bins.slice(1, -1).map((centre, k) => {
    const below = bins[k] as number;
    const above = bins[k + 2] as number;
    const weights = Array.from({ length: above - below - 1 }, (_, n) => {
      const bin = below + 1 + n;
      return bin <= centre ? (bin - below) / (centre - below) : (above - bin) / (above - centre);
    });
    return { centre, from: below + 1, weights };
  });
  const firstWeight = new Int32Array(bands.length + 1);
  bands.forEach((band, k) => {
    firstWeight[k + 1] = (firstWeight[k] as number) + band.weights.length;
  });
  return {
    length: bands.length,
    bins: bins.at(-1) ?? 0,
    centreHz: bands.map((band) => (band.centre * sampleRateHz) / fftSize),
    firstBin: Int32Array.from(bands, (band) => band.from),
    firstWeight,
    weights: Float32Array.from(bands.flatMap((band) => band.weights)),
  };
};
