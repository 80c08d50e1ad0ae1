/** How a flux curve becomes candidate notes. Times in frames. */
export interface PeakPickerOptions {
  /** A peak is the largest value this many frames to either side. */
  reach: number;
  /** The local mean is taken over this many frames before … */
  meanBefore: number;
  /** … and after. Also the look-ahead of the stream. */
  meanAfter: number;
  /** A peak stands at least this far over its share of the local mean. */
  threshold: number;
  meanShare: number;
}

/** A peak: the frame it tops at, interpolated between frames, and its height. */
export interface Peak {
  frame: number;
  height: number;
}

/** Picks peaks from a stream of values; each call returns a peak found, or null. */
export interface PeakPicker {
  next(value: number): Peak | null;
}

/** Where a parabola through three neighbouring values tops, relative to the middle one. */
const parabolaTop = (before: number, at: number, after: number): number => {
  const bend = before - 2 * at + after;
  return bend < 0 ? (before - after) / (2 * bend) : 0;
};

/**
 * A streaming peak picker with a local threshold: a value counts if it is the largest in its neighbourhood and stands
 * clear of the mean around it. Decides `max(reach, meanAfter)` frames late.
 */
export const createPeakPicker = (options: PeakPickerOptions): PeakPicker => {
  const { reach, meanBefore, meanAfter, threshold, meanShare } = options;
  const ahead = Math.max(reach, meanAfter);
  const kept = Math.max(reach, meanBefore) + ahead + 1;
  const values: number[] = [];
  let count = 0;
  return {
    next(value) {
      values.push(value);
      if (values.length > kept) values.shift();
      count += 1;
      const at = values.length - 1 - ahead;
      if (at < 0) return null;
      const candidate = values[at] as number;
      if (candidate < threshold) return null;
      for (let k = Math.max(0, at - reach); k <= at + reach; k += 1) {
        const other = values[k] as number;
        // On a plateau the first frame is the peak.
        if (other > candidate || (other === candidate && k < at)) return null;
      }
      const from = Math.max(0, at - meanBefore);
      let sum = 0;
      for (let k = from; k <= at + meanAfter; k += 1) sum += values[k] as number;
      const mean = sum / (at + meanAfter - from + 1);
      if (candidate < meanShare * mean + threshold) return null;
      const shift = parabolaTop(values[at - 1] ?? 0, candidate, values[at + 1] ?? 0);
      return { frame: count - 1 - ahead + shift, height: candidate };
    },
  };
};
