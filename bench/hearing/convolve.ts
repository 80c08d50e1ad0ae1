/** A complex transform in place, radix two; lengths are powers of two. Enough for a benchmark. */
const transform = (re: Float64Array, im: Float64Array, sign: 1 | -1): void => {
  const size = re.length;
  for (let i = 1, j = 0; i < size; i += 1) {
    let bit = size >> 1;
    for (; j & bit; bit >>= 1) j ^= bit;
    j ^= bit;
    if (i < j) {
      [re[i], re[j]] = [re[j] as number, re[i] as number];
      [im[i], im[j]] = [im[j] as number, im[i] as number];
    }
  }
  for (let length = 2; length <= size; length <<= 1) {
    const half = length >> 1;
    const angle = (sign * 2 * Math.PI) / length;
    const cos = Array.from({ length: half }, (_, k) => Math.cos(angle * k));
    const sin = Array.from({ length: half }, (_, k) => Math.sin(angle * k));
    for (let from = 0; from < size; from += length) {
      for (let k = 0; k < half; k += 1) {
        const a = from + k;
        const b = a + half;
        const xr = (re[b] as number) * (cos[k] as number) - (im[b] as number) * (sin[k] as number);
        const xi = (re[b] as number) * (sin[k] as number) + (im[b] as number) * (cos[k] as number);
        re[b] = (re[a] as number) - xr;
        im[b] = (im[a] as number) - xi;
        re[a] = (re[a] as number) + xr;
        im[a] = (im[a] as number) + xi;
      }
    }
  }
};

/** A sound through a response, as long as the sound. */
export const convolve = (sound: Float32Array, response: Float32Array): Float32Array => {
  const size = 2 ** Math.ceil(Math.log2(sound.length + response.length));
  // Both are real: one transform holds the sound in its real part and the response in its imaginary one.
  const re = new Float64Array(size);
  const im = new Float64Array(size);
  re.set(sound);
  im.set(response);
  transform(re, im, 1);
  const outRe = new Float64Array(size);
  const outIm = new Float64Array(size);
  for (let k = 0; k < size; k += 1) {
    const m = (size - k) % size;
    const [ar, ai] = [re[k] as number, im[k] as number];
    const [br, bi] = [re[m] as number, -(im[m] as number)];
    // (A + B̄)/2 · (A − B̄)/2i
    const [sr, si] = [(ar + br) / 2, (ai + bi) / 2];
    const [dr, di] = [(ai - bi) / 2, -(ar - br) / 2];
    outRe[k] = sr * dr - si * di;
    outIm[k] = sr * di + si * dr;
  }
  transform(outRe, outIm, -1);
  return Float32Array.from({ length: sound.length }, (_, n) => (outRe[n] as number) / size);
};
