/**
 * The base-2 logarithms of positive values, to within 0.0002: the exponent is read from the number's own bits, and a quartic
 * fits log2 over the mantissa. Several times as fast as Math.log2, which matters at two million a minute. `bits` is a view of
 * `values`, whose content is lost.
 */
export const log2 = (values: Float32Array, bits: Int32Array, into: Float32Array): void => {
  for (let n = 0; n < values.length; n += 1) {
    const word = bits[n] as number;
    bits[n] = (word & 0x007fffff) | 0x3f800000;
    const m = (values[n] as number) - 1;
    into[n] = (word >> 23) - 127 + m * (1.4387257 + m * (-0.6778778 + m * (0.3218538 - m * 0.0827018)));
  }
};
