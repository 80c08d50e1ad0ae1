/** A dropout lasts at least this many samples: half a render quantum. */
const SHORTEST = 64;
/** A sound that breaks off or starts at more than this (−50 dBFS) did not fade. */
const ABRUPT = 0.003;

/**
 * Finds where a live recording broke off: runs of exact zeros between two samples that are far from zero on both sides.
 * True silence fades and has noise; a lost block does neither. Returns the first frame of each run.
 */
export const findDropouts = (samples: Float32Array): number[] => {
  const found: number[] = [];
  let zeros = 0;
  for (let n = 0; n < samples.length; n += 1) {
    const value = samples[n] as number;
    if (value === 0) {
      zeros += 1;
      continue;
    }
    const start = n - zeros;
    if (zeros >= SHORTEST && start > 0 && Math.abs(samples[start - 1] as number) > ABRUPT && Math.abs(value) > ABRUPT) {
      found.push(start);
    }
    zeros = 0;
  }
  return found;
};
