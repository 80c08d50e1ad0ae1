import { chance } from '../../core/src/stats/random';

/** Numbers at which readers change their minds. */
const BORDERS = [0, 1, 2, 4, 7, 8, 16, 31, 32, 64, 100, 127, 128, 255, 256, 1000, 32_767, 65_535, 0x7fffffff, 0xffffffff];
const MAX_CHANGES = 8;
const MAX_REPEATS = 4000;

const joined = (...parts: readonly Uint8Array[]): Uint8Array => {
  const whole = new Uint8Array(parts.reduce((sum, { length }) => sum + length, 0));
  let at = 0;
  for (const part of parts) {
    whole.set(part, at);
    at += part.length;
  }
  return whole;
};

/** Changes inputs by chance: bits, numbers, words of the reader's own, parts of other inputs, repeated and left out. */
export const createMutator = (seed: number, words: readonly Uint8Array[], longestBytes: number) => {
  const { uniform } = chance(seed);
  const below = (limit: number) => Math.floor(uniform() * limit);
  const one = <Value>(list: readonly Value[]): Value => list[below(list.length)] as Value;
  /** A stretch of an input: short ones are as likely as long ones. */
  const stretch = (bytes: Uint8Array): [number, number] => {
    const from = below(bytes.length);
    return [from, Math.min(bytes.length, from + 1 + below(2 ** below(12)))];
  };
  const put = (bytes: Uint8Array, at: number, inserted: Uint8Array, over = 0) =>
    joined(bytes.subarray(0, at), inserted, bytes.subarray(at + over));

  const changes: ((bytes: Uint8Array, other: Uint8Array) => Uint8Array)[] = [
    (bytes) => bytes.map((value, k) => (k === at ? value ^ (1 << below(8)) : value)),
    (bytes) => put(bytes, at, Uint8Array.of(below(256)), below(2)),
    (bytes) =>
      put(
        bytes,
        at,
        Uint8Array.from(String(one(BORDERS) * (below(2) ? 1 : -1)), (letter) => letter.charCodeAt(0)),
      ),
    (bytes) => {
      const number = new DataView(new ArrayBuffer(4));
      number.setUint32(0, one(BORDERS), below(2) === 0);
      const size = one([1, 2, 4]);
      return put(bytes, at, new Uint8Array(number.buffer, below(2) ? 0 : 4 - size, size), size);
    },
    (bytes) => (words.length ? put(bytes, at, one(words), below(2) ? 0 : below(8)) : bytes),
    (bytes) => {
      const [from, to] = stretch(bytes);
      return joined(bytes.subarray(0, from), bytes.subarray(to));
    },
    (bytes) => {
      const [from, to] = stretch(bytes);
      return put(bytes, at, bytes.subarray(from, to), below(2) ? 0 : to - from);
    },
    (bytes, other) => {
      const [from, to] = stretch(other);
      return put(bytes, at, other.subarray(from, to), below(2) ? 0 : to - from);
    },
    (bytes, other) => joined(bytes.subarray(0, at), other.subarray(below(other.length))),
    // What takes the square of its length shows itself by length.
    (bytes) => {
      const piece = below(2) && words.length ? one(words) : bytes.subarray(at, at + 1 + below(6));
      return put(bytes, at, joined(...Array.from({ length: 1 + below(2 ** below(Math.log2(MAX_REPEATS))) }, () => piece)));
    },
  ];
  let at = 0;

  return (bytes: Uint8Array, other: Uint8Array): Uint8Array => {
    let changed = bytes;
    for (let left = 1 + below(MAX_CHANGES); left > 0; left -= 1) {
      if (changed.length === 0) changed = Uint8Array.of(below(256));
      at = below(changed.length);
      changed = one(changes)(changed, other.length ? other : changed);
    }
    return changed.subarray(0, longestBytes);
  };
};
