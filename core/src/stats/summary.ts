import { max, quickselect } from 'd3-array';

/** The values added up; 0 for none. */
export const total = (values: readonly number[]): number => values.reduce((sum, value) => sum + value, 0);

/** Arithmetic mean. NaN for an empty list. */
export const mean = (values: readonly number[]): number => total(values) / values.length;

/**
 * Sample standard deviation (n − 1), two-pass with the compensation term of Chan, Golub & LeVeque (1983), so that a
 * large common offset costs no digits. NaN below two values.
 */
export const sampleSd = (values: readonly number[]): number => {
  if (values.length < 2) return Number.NaN;
  const centre = mean(values);
  let squares = 0;
  let rest = 0;
  for (const value of values) {
    squares += (value - centre) ** 2;
    rest += value - centre;
  }
  return Math.sqrt((squares - rest ** 2 / values.length) / (values.length - 1));
};

/** Median; the mean of the middle two for an even count. NaN for an empty list. */
export const median = (values: ArrayLike<number>): number => {
  if (values.length === 0) return Number.NaN;
  // Slopes of all pairs are many: what is not needed is not sorted.
  const parted = Float64Array.from(values);
  const middle = parted.length >> 1;
  quickselect(parted, middle);
  const upper = parted[middle] as number;
  return parted.length % 2 ? upper : ((max(parted.subarray(0, middle)) as number) + upper) / 2;
};

/**
 * The median in which each value counts by its weight: half of all weight lies on either side; the mean of the two middle values where
 * it parts exactly between them. With equal weights it is the median. NaN for an empty list.
 */
export const weightedMedian = (values: readonly number[], weights: readonly number[]): number => {
  const order = values.map((_, k) => k).sort((a, b) => (values[a] as number) - (values[b] as number));
  const most = Math.max(...weights);
  const whole = weights.reduce((sum, weight) => sum + weight / most, 0);
  let below = 0;
  for (const [place, k] of order.entries()) {
    below += (weights[k] as number) / most;
    const value = values[k] as number;
    if (Math.abs(below - whole / 2) < 1e-9 * whole) return (value + (values[order[place + 1] ?? k] as number)) / 2;
    if (below > whole / 2) return value;
  }
  return Number.NaN;
};

/** Root of the mean square. NaN for an empty list. */
export const rootMeanSquare = (values: readonly number[]): number => Math.sqrt(mean(values.map((value) => value ** 2)));

/** Robust standard deviation: 1.4826 × the median absolute deviation from the median. */
export const robustSd = (values: readonly number[]): number => {
  const centre = median(values);
  return 1.4826 * median(values.map((value) => Math.abs(value - centre)));
};

/**
 * Lag-1 autocorrelation as the NIST StRD sets define it: Σ (y_i − ȳ)(y_{i+1} − ȳ) / Σ (y_i − ȳ)².
 */
export const lag1Autocorrelation = (values: readonly number[]): number => {
  const centre = mean(values);
  let products = 0;
  let squares = 0;
  values.forEach((value, k) => {
    squares += (value - centre) ** 2;
    const next = values[k + 1];
    if (next !== undefined) products += (value - centre) * (next - centre);
  });
  return products / squares;
};

/** Up to so many points every pair of them has a say in the slope. */
const ALL_PAIRS = 1500;

/**
 * Theil–Sen slope of y on x: the median of the slopes between all pairs with different x; of long series, that of pairs half the
 * series apart, which is Theil's incomplete method. NaN below two points. Source: Theil (1950), Proc. Kon. Ned. Akad. v. Wetensch.
 * A 53, 386–392.
 */
export const theilSenSlope = (x: readonly number[], y: readonly number[]): number => {
  const slopes = new Float64Array(x.length > ALL_PAIRS ? x.length : (x.length * (x.length - 1)) / 2);
  let count = 0;
  const slope = (i: number, j: number) => {
    const run = (x[j] as number) - (x[i] as number);
    if (run === 0) return;
    slopes[count] = ((y[j] as number) - (y[i] as number)) / run;
    count += 1;
  };
  if (x.length > ALL_PAIRS) {
    const apart = Math.ceil(x.length / 2);
    for (let i = 0; i + apart < x.length; i += 1) slope(i, i + apart);
  } else for (let i = 0; i < x.length; i += 1) for (let j = i + 1; j < x.length; j += 1) slope(i, j);
  return median(slopes.subarray(0, count));
};
