import { describe, expect, it } from 'vitest';
import { chiSquareQuantile, meanEstimate, sdEstimate, studentTQuantile } from './interval-estimate';

describe('chi-square quantiles', () => {
  // NIST/SEMATECH e-Handbook of Statistical Methods, 1.3.6.7.4, critical values of the chi-square distribution.
  it.each([
    [0.95, 1, 3.841],
    [0.95, 10, 18.307],
    [0.975, 10, 20.483],
    [0.99, 10, 23.209],
    [0.025, 10, 3.247],
    [0.975, 30, 46.979],
    [0.025, 30, 16.791],
    [0.975, 100, 129.561],
    [0.025, 100, 74.222],
  ])('at %f with %i degrees of freedom is %f', (probability, degrees, tabulated) => {
    expect(chiSquareQuantile(probability, degrees)).toBeCloseTo(tabulated, 2.9);
  });
});

describe("Student's t quantiles", () => {
  // NIST/SEMATECH e-Handbook, 1.3.6.7.2.
  it.each([
    [1, 12.706],
    [10, 2.228],
    [30, 2.042],
    [100, 1.984],
  ])('at 0.975 with %i degrees of freedom is %f', (degrees, tabulated) => {
    expect(studentTQuantile(0.975, degrees)).toBeCloseTo(tabulated, 2.9);
  });
});

describe('intervals', () => {
  it('of a standard deviation are wider for few notes than for many', () => {
    const few = sdEstimate(8, 5);
    const many = sdEstimate(8, 100);
    expect(few.low).toBeLessThan(many.low as number);
    expect(few.high).toBeGreaterThan(many.high as number);
    // By the formula with the tabulated chi-square 11.143 and 0.484 (4 degrees of freedom).
    expect(few.high).toBeCloseTo(8 * Math.sqrt(4 / 0.4844), 2);
    expect(few.low).toBeCloseTo(8 * Math.sqrt(4 / 11.1433), 2);
  });

  it('of a mean follow the t table', () => {
    const { low, high } = meanEstimate(-3, 10, 11);
    expect(high).toBeCloseTo(-3 + (2.228 * 10) / Math.sqrt(11), 2);
    expect(low).toBeCloseTo(-3 - (2.228 * 10) / Math.sqrt(11), 2);
  });

  it('are null where one value says nothing about spread', () => {
    expect(sdEstimate(Number.NaN, 1)).toMatchObject({ low: null, high: null });
    expect(meanEstimate(4, Number.NaN, 1)).toEqual({ value: 4, low: null, high: null });
  });
});
