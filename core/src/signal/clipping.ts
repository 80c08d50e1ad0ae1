/** Samples at or beyond this share of full scale are clipped; this many in a row are no accident. */
const FULL = 0.999;
const IN_A_ROW = 3;

/** How many times a recording runs into full scale for three samples or more. */
export const countClipped = (samples: Float32Array): number => {
  let clipped = 0;
  let row = 0;
  for (const value of samples) {
    row = Math.abs(value) >= FULL ? row + 1 : 0;
    if (row === IN_A_ROW) clipped += 1;
  }
  return clipped;
};
