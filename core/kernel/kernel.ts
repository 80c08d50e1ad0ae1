/**
 * The loops in which listening spends its time, in AssemblyScript (TypeScript's syntax, compiled to WebAssembly), four numbers
 * at a time. `npm run build:kernel` compiles it into `src/signal/kernel-module.ts`. All pointers are byte offsets of rows of
 * 32-bit floats (64-bit where the name says so) that {@link allocate} gave; rows of `padded` numbers have a length that
 * divides by four. Nothing here keeps a state.
 */

/** Room for `bytes`, never given back: the caller keeps and reuses it. */
export function allocate(bytes: i32): usize {
  return heap.alloc(bytes);
}

function sumOf(v: v128): f32 {
  const pairs = f32x4.add(v, v128.shuffle<f32>(v, v, 2, 3, 0, 1));
  return f32x4.extract_lane(f32x4.add(pairs, v128.shuffle<f32>(pairs, pairs, 1, 0, 3, 2)), 0);
}

function greatestOf(v: v128): f32 {
  return max(max(f32x4.extract_lane(v, 0), f32x4.extract_lane(v, 1)), max(f32x4.extract_lane(v, 2), f32x4.extract_lane(v, 3)));
}

/** Sum of a[n]·b[n] over `count` numbers. */
function dot(a: usize, b: usize, count: i32): f32 {
  // Four sums at a time keep the processor busier than one.
  let first = f32x4.splat(0);
  let second = first;
  let third = first;
  let fourth = first;
  let n = 0;
  for (; n + 16 <= count; n += 16) {
    first = f32x4.add(first, f32x4.mul(v128.load(a), v128.load(b)));
    second = f32x4.add(second, f32x4.mul(v128.load(a, 16), v128.load(b, 16)));
    third = f32x4.add(third, f32x4.mul(v128.load(a, 32), v128.load(b, 32)));
    fourth = f32x4.add(fourth, f32x4.mul(v128.load(a, 48), v128.load(b, 48)));
    a += 64;
    b += 64;
  }
  for (; n + 4 <= count; n += 4) {
    first = f32x4.add(first, f32x4.mul(v128.load(a), v128.load(b)));
    a += 16;
    b += 16;
  }
  let sum = sumOf(f32x4.add(f32x4.add(first, second), f32x4.add(third, fourth)));
  for (; n < count; n += 1) {
    sum += load<f32>(a) * load<f32>(b);
    a += 4;
    b += 4;
  }
  return sum;
}

/** Four sums of products with the same `padded` numbers: of the rows that begin at `rows` and every `step` bytes after it. */
function fourDots(rows: usize, step: usize, numbers: usize, padded: i32, into: usize): void {
  let first = f32x4.splat(0);
  let second = first;
  let third = first;
  let fourth = first;
  for (let n = 0; n < padded; n += 4) {
    const shared = v128.load(numbers);
    first = f32x4.add(first, f32x4.mul(v128.load(rows), shared));
    second = f32x4.add(second, f32x4.mul(v128.load(rows + step), shared));
    third = f32x4.add(third, f32x4.mul(v128.load(rows + 2 * step), shared));
    fourth = f32x4.add(fourth, f32x4.mul(v128.load(rows + 3 * step), shared));
    rows += 16;
    numbers += 16;
  }
  // Turned on its side, the sums of each row stand below one another.
  const low = f32x4.add(v128.shuffle<f32>(first, second, 0, 4, 1, 5), v128.shuffle<f32>(first, second, 2, 6, 3, 7));
  const high = f32x4.add(v128.shuffle<f32>(third, fourth, 0, 4, 1, 5), v128.shuffle<f32>(third, fourth, 2, 6, 3, 7));
  v128.store(into, f32x4.add(v128.shuffle<f32>(low, high, 0, 1, 4, 5), v128.shuffle<f32>(low, high, 2, 3, 6, 7)));
}

/**
 * Powers of a spectrum's first `padded` bins as a Hann window gives them, from the transform without a window: the window is
 * a convolution with −½, 1, −½. `spectrum` is complex, with a number before it and one after (4 floats) for the neighbours.
 */
export function hannPowers(spectrum: usize, padded: i32, scale: f32, powers: usize): void {
  const half = f32x4.splat(0.5);
  const scales = f32x4.splat(scale);
  for (let bin = 0; bin < padded; bin += 4) {
    const low = f32x4.sub(v128.load(spectrum), f32x4.mul(half, f32x4.add(v128.load(spectrum - 8), v128.load(spectrum, 8))));
    const high = f32x4.sub(
      v128.load(spectrum, 16),
      f32x4.mul(half, f32x4.add(v128.load(spectrum, 8), v128.load(spectrum, 24))),
    );
    const re = v128.shuffle<f32>(low, high, 0, 2, 4, 6);
    const im = v128.shuffle<f32>(low, high, 1, 3, 5, 7);
    v128.store(powers, f32x4.mul(scales, f32x4.add(f32x4.mul(re, re), f32x4.mul(im, im))));
    spectrum += 32;
    powers += 16;
  }
}

/** From this many bins on a band is summed four at a time. */
const WIDE = 8;

/** Sums powers into bands and takes the root. `firstBin` and `firstWeight` hold 32-bit integers, the latter one more. */
export function bandAmplitudes(
  powers: usize,
  firstBin: usize,
  firstWeight: usize,
  weights: usize,
  bands: i32,
  amplitudes: usize,
): void {
  for (let band = 0; band < bands; band += 1) {
    const at = band << 2;
    const from = load<i32>(firstWeight + at);
    const count = load<i32>(firstWeight + at, 4) - from;
    let weight = weights + (from << 2);
    let bin = powers + (load<i32>(firstBin + at) << 2);
    // Low bands are a few bins wide: too few for four at a time.
    let power: f32 = 0;
    if (count >= WIDE) power = dot(weight, bin, count);
    else
      for (let n = 0; n < count; n += 1) {
        power += load<f32>(weight) * load<f32>(bin);
        weight += 4;
        bin += 4;
      }
    store<f32>(amplitudes + at, sqrt(power));
  }
}

/** The greatest of a row. */
export function greatest(row: usize, padded: i32): f32 {
  let most = v128.load(row);
  for (let n = 4; n < padded; n += 4) most = f32x4.max(most, v128.load(row + (n << 2)));
  return greatestOf(most);
}

/**
 * Tracks each band's background (falls fast, rises by the factor `rise` a frame) and writes log2(1 + amplitude / reference),
 * the reference being `share` times the background and at least `least`. The logarithm is right to within 0.0002: the
 * exponent is read from the number's own bits, and a quartic fits log2 over the mantissa.
 */
export function compress(
  amplitudes: usize,
  background: usize,
  padded: i32,
  rise: f32,
  share: f32,
  least: f32,
  levels: usize,
): void {
  const rises = f32x4.splat(rise);
  const shares = f32x4.splat(share);
  const leasts = f32x4.splat(least);
  const one = f32x4.splat(1);
  for (let n = 0; n < padded; n += 4) {
    const at = n << 2;
    const level = v128.load(amplitudes + at);
    const floor = v128.load(background + at);
    const falling = f32x4.add(f32x4.mul(f32x4.splat(0.6), floor), f32x4.mul(f32x4.splat(0.4), level));
    const rising = f32x4.min(level, f32x4.mul(floor, rises));
    const next = v128.bitselect(falling, rising, f32x4.lt(level, floor));
    v128.store(background + at, next);
    const ratio = f32x4.add(one, f32x4.div(level, f32x4.max(f32x4.mul(shares, next), leasts)));
    const exponent = f32x4.convert_i32x4_s(i32x4.sub(i32x4.shr_u(ratio, 23), i32x4.splat(127)));
    const mantissa = v128.or(v128.and(ratio, i32x4.splat(0x007fffff)), i32x4.splat(0x3f800000));
    const m = f32x4.sub(mantissa, one);
    let curve = f32x4.sub(f32x4.splat(0.3218538), f32x4.mul(m, f32x4.splat(0.0827018)));
    curve = f32x4.add(f32x4.splat(-0.6778778), f32x4.mul(m, curve));
    curve = f32x4.add(f32x4.splat(1.4387257), f32x4.mul(m, curve));
    v128.store(levels + at, f32x4.add(exponent, f32x4.mul(m, curve)));
  }
}

/** One fully connected layer over rows of `padded` weights: biases + weights · input, rectified if wanted. */
export function layer(
  input: usize,
  padded: i32,
  weights: usize,
  biases: usize,
  outputs: i32,
  isRectified: bool,
  into: usize,
): void {
  const step: usize = padded << 2;
  const zero = f32x4.splat(0);
  let unit = 0;
  for (; unit + 4 <= outputs; unit += 4) {
    fourDots(weights, step, input, padded, into);
    const sums = f32x4.add(v128.load(into), v128.load(biases));
    v128.store(into, isRectified ? f32x4.max(sums, zero) : sums);
    weights += step << 2;
    biases += 16;
    into += 16;
  }
  for (; unit < outputs; unit += 1) {
    const sum = load<f32>(biases) + dot(weights, input, padded);
    store<f32>(into, isRectified ? max<f32>(sum, 0) : sum);
    weights += step;
    biases += 4;
    into += 4;
  }
}

/**
 * Filters a sound and keeps every `factor`-th sample: into[k] = Σ taps[n] · sound[k·factor + n] over `padded` taps. Four at a
 * time: up to three more than `count` are written.
 */
export function decimate(sound: usize, taps: usize, padded: i32, factor: i32, count: i32, into: usize): void {
  const step: usize = factor << 2;
  for (let k = 0; k < count; k += 4) {
    fourDots(sound, step, taps, padded, into);
    sound += step << 2;
    into += 16;
  }
}

/** Sum of a[n]·b[n] over `count` 64-bit numbers. */
function longDot(a: usize, b: usize, count: i32): f64 {
  let sums = f64x2.splat(0);
  let n = 0;
  for (; n + 2 <= count; n += 2) {
    sums = f64x2.add(sums, f64x2.mul(v128.load(a), v128.load(b)));
    a += 16;
    b += 16;
  }
  const sum = f64x2.extract_lane(sums, 0) + f64x2.extract_lane(sums, 1);
  return n < count ? sum + load<f64>(a) * load<f64>(b) : sum;
}

/**
 * Burg's method: the coefficients of linear prediction, 64-bit, 1 first. `forward` and `backward` hold the sound, 64-bit, and
 * lose it. Error n of the forward prediction of order m stands beside error n − m of the backward one.
 */
export function burg(forward: usize, backward: usize, count: i32, order: i32, coefficients: usize): void {
  store<f64>(coefficients, 1);
  for (let k = 1; k <= order; k += 1) store<f64>(coefficients + (k << 3), 0);
  for (let m = 1; m <= order; m += 1) {
    const beside = forward + (m << 3);
    const pairs = count - m;
    const power = longDot(beside, beside, pairs) + longDot(backward, backward, pairs);
    if (power < 1e-18) return;
    const reflection = (-2 * longDot(beside, backward, pairs)) / power;
    for (let k = 0; k <= m >> 1; k += 1) {
      const low = load<f64>(coefficients + (k << 3));
      const high = load<f64>(coefficients + ((m - k) << 3));
      store<f64>(coefficients + (k << 3), low + reflection * high);
      store<f64>(coefficients + ((m - k) << 3), high + reflection * low);
    }
    const reflections = f64x2.splat(reflection);
    let n = 0;
    for (; n + 2 <= pairs; n += 2) {
      const at = n << 3;
      const ahead = v128.load(beside + at);
      const behind = v128.load(backward + at);
      v128.store(beside + at, f64x2.add(ahead, f64x2.mul(reflections, behind)));
      v128.store(backward + at, f64x2.add(behind, f64x2.mul(reflections, ahead)));
    }
    if (n < pairs) {
      const at = n << 3;
      const ahead = load<f64>(beside + at);
      const behind = load<f64>(backward + at);
      store<f64>(beside + at, ahead + reflection * behind);
      store<f64>(backward + at, behind + reflection * ahead);
    }
  }
}

/** into[n] = Σ taps[k] · sound[n + k], all 64-bit. */
export function filter(sound: usize, taps: usize, tapCount: i32, count: i32, into: usize): void {
  for (let n = 0; n < count; n += 1) store<f64>(into + (n << 3), longDot(sound + (n << 3), taps, tapCount));
}

/**
 * How far each of `padded` bands rose above the loudest of itself and its neighbours earlier, zero where it fell. `earlier` has a
 * number before it and one after.
 */
export function rises(now: usize, earlier: usize, padded: i32, into: usize): void {
  const zero = f32x4.splat(0);
  for (let n = 0; n < padded; n += 4) {
    const widest = f32x4.max(v128.load(earlier), f32x4.max(v128.load(earlier - 4), v128.load(earlier, 4)));
    v128.store(into, f32x4.max(zero, f32x4.sub(v128.load(now), widest)));
    now += 16;
    earlier += 16;
    into += 16;
  }
}
