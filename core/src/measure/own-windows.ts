import { differenceSdEstimate, type Estimate, sdEstimate, sdFigure } from '../stats/interval-estimate';
import { rootMeanSquare } from '../stats/summary';

/** A value with the half-width of the window that it has a right to, in the same unit. */
export interface Windowed {
  value: number;
  window: number;
}

/**
 * The standard deviation of values as shares of their own windows, about the mean in which each counts by how precise it is asked to be
 * (1/window²). Where all windows are alike this is the sample standard deviation over the window. `fitted` figures were taken from the
 * values before.
 */
export const sdShare = (values: readonly Windowed[], fitted = 1): number => {
  const weight = values.reduce((sum, { window }) => sum + window ** -2, 0);
  const centre = values.reduce((sum, { value, window }) => sum + value * window ** -2, 0) / weight;
  const squares = values.reduce((sum, { value, window }) => sum + ((value - centre) / window) ** 2, 0);
  return Math.sqrt(squares / (values.length - fitted));
};

/** One step from note to note: its length too long, in ms, and what it was to be; the windows of both its ends. */
export interface WindowedStep {
  differenceMs: number;
  expectedMs: number;
  windowsMs: readonly [number, number];
}

/**
 * The standard deviation of steps as shares of their own windows, which are those of both ends by squares. What they share in tempo, each
 * by its length, is taken off: evenness knows no tempo. Where all steps are alike this is the unevenness in time over √2 windows.
 */
export const stepShare = (steps: readonly WindowedStep[]): number => {
  const scaled = steps.map(({ differenceMs, expectedMs, windowsMs }) => {
    const window = Math.hypot(...windowsMs);
    return { y: differenceMs / window, x: expectedMs / window };
  });
  const slope = scaled.reduce((sum, { x, y }) => sum + x * y, 0) / scaled.reduce((sum, { x }) => sum + x ** 2, 0);
  return Math.sqrt(scaled.reduce((sum, { x, y }) => sum + (y - slope * x) ** 2, 0) / (steps.length - 1));
};

/** The spread as a share of each note's own window, with its interval, the ear's noise taken off; null below two notes. */
export const spreadShareOf = (values: readonly Windowed[], noiseMs: number, doubt: number, fitted = 1): Estimate | null =>
  values.length <= fitted
    ? null
    : sdFigure(
        sdEstimate(sdShare(values, fitted), values.length - fitted + 1),
        rootMeanSquare(values.map(({ window }) => noiseMs / window)),
        doubt,
      );

/** The unevenness as a share of the windows of each step's own ends, likewise. */
export const unevennessShareOf = (steps: readonly WindowedStep[], noiseMs: number, doubt: number): Estimate | null =>
  steps.length < 2
    ? null
    : sdFigure(
        differenceSdEstimate(stepShare(steps), steps.length),
        rootMeanSquare(steps.map(({ windowsMs }) => (Math.SQRT2 * noiseMs) / Math.hypot(...windowsMs))),
        doubt,
      );
