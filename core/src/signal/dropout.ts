/** A dropout lasts at least this many samples: half a render quantum. */
const SHORTEST = 64;
/** A sound that breaks off or starts at more than this (−50 dBFS) did not fade. */
const ABRUPT = 0.003;

/**
 * Watches a live recording for places where it broke off: runs of exact zeros between two samples that are far from zero on
 * both sides. True silence fades and has noise; a lost block does neither. Each call takes the next block and returns the
 * stream positions at which dropouts that ended in it began.
 */
export const createDropoutWatch = (): ((block: Float32Array) => number[]) => {
  let position = 0;
  let zeros = 0;
  let lastSound = 0;
  return (block) => {
    const found: number[] = [];
    for (let n = 0; n < block.length; n += 1) {
      const value = block[n] as number;
      if (value === 0) {
        zeros += 1;
        continue;
      }
      if (zeros >= SHORTEST && Math.abs(lastSound) > ABRUPT && Math.abs(value) > ABRUPT) found.push(position + n - zeros);
      zeros = 0;
      lastSound = value;
    }
    position += block.length;
    return found;
  };
};
