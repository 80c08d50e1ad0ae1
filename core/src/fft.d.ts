/** The part of fft.js that is used here; the package ships no types. */
declare module 'fft.js' {
  export default class FFT {
    constructor(size: number);
    /** Fills the first half of `output` (interleaved re, im) from `size` real samples. */
    realTransform(output: Float64Array, input: Float64Array): void;
  }
}
