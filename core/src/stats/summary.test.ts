import fc from 'fast-check';
import * as reference from 'simple-statistics';
import { describe, expect, it } from 'vitest';
import { lag1Autocorrelation, mean, median, robustSd, sampleSd, theilSenSlope } from './summary';

const alternating = (base: number) => [base + 0.2, ...Array.from({ length: 1000 }, (_, k) => base + (k % 2 ? 0.3 : 0.1))];

/** NIST StRD univariate sets NumAcc1–4: certified values, exact by construction. */
const NIST_STRD = [
  { name: 'NumAcc1', values: [10_000_001, 10_000_003, 10_000_002], mean: 10_000_002, sd: 1, lag1: -0.5, digits: 12 },
  { name: 'NumAcc2', values: alternating(1), mean: 1.2, sd: 0.1, lag1: -0.999, digits: 12 },
  { name: 'NumAcc3', values: alternating(1_000_000), mean: 1_000_000.2, sd: 0.1, lag1: -0.999, digits: 8 },
  { name: 'NumAcc4', values: alternating(10_000_000), mean: 10_000_000.2, sd: 0.1, lag1: -0.999, digits: 7 },
];

describe.each(NIST_STRD)('on NIST StRD $name', ({ values, mean: certifiedMean, sd, lag1, digits }) => {
  it('agrees with the certified mean, standard deviation and lag-1 autocorrelation', () => {
    expect(mean(values) / certifiedMean).toBeCloseTo(1, 13);
    expect(sampleSd(values)).toBeCloseTo(sd, digits);
    expect(lag1Autocorrelation(values)).toBeCloseTo(lag1, digits - 1);
  });
});

const numbers = fc.array(fc.double({ min: -1e4, max: 1e4, noNaN: true }), { minLength: 2, maxLength: 60 });

describe('against simple-statistics', () => {
  it('mean, standard deviation, median and MAD agree on any numbers', () => {
    fc.assert(
      fc.property(numbers, (values) => {
        expect(mean(values)).toBeCloseTo(reference.mean(values), 6);
        expect(sampleSd(values)).toBeCloseTo(reference.sampleStandardDeviation(values), 6);
        expect(median(values)).toBeCloseTo(reference.median(values), 9);
        expect(robustSd(values)).toBeCloseTo(1.4826 * reference.medianAbsoluteDeviation(values), 6);
      }),
    );
  });
});

describe('the Theil–Sen slope', () => {
  it('is the slope of a line, whatever one point does', () => {
    const x = [0, 1, 2, 3, 4, 5, 6, 7];
    const y = x.map((value) => 3 + 0.25 * value);
    expect(theilSenSlope(x, y)).toBeCloseTo(0.25, 12);
    expect(theilSenSlope(x, y.with(4, 900))).toBeCloseTo(0.25, 12);
  });

  it('is not a number below two points', () => {
    expect(theilSenSlope([1], [1])).toBeNaN();
  });
});
