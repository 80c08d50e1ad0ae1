/** The recent past of a stream of samples, addressed by position in the stream. */
export interface SampleBuffer {
  append(block: Float32Array): void;
  /** Position after the last sample. */
  end(): number;
  /**
   * `length` samples from position `from`, to be read before the next call. Before the stream began there is silence;
   * past its end the sound is mirrored, so that a cut does not look like a note.
   */
  view(from: number, length: number): Float32Array;
}

/** Makes a {@link SampleBuffer} that remembers at least `keep` samples. */
export const createSampleBuffer = (keep: number): SampleBuffer => {
  let buffer = new Float32Array(4 * keep);
  let length = 0;
  /** Stream position of the buffer's first sample. */
  let origin = 0;
  let scratch = new Float32Array(0);
  return {
    append(block) {
      if (length + block.length > buffer.length) {
        const drop = Math.max(0, length - keep);
        buffer.copyWithin(0, drop, length);
        origin += drop;
        length -= drop;
      }
      if (length + block.length > buffer.length) {
        const larger = new Float32Array(2 * (length + block.length));
        larger.set(buffer.subarray(0, length));
        buffer = larger;
      }
      buffer.set(block, length);
      length += block.length;
    },
    end: () => origin + length,
    view(from, count) {
      const at = from - origin;
      if (at >= 0 && at + count <= length) return buffer.subarray(at, at + count);
      if (scratch.length < count) scratch = new Float32Array(count);
      for (let n = 0; n < count; n += 1) {
        const own = at + n;
        const mirrored = own < length ? own : 2 * (length - 1) - own;
        scratch[n] = mirrored < 0 ? 0 : (buffer[mirrored] ?? 0);
      }
      return scratch.subarray(0, count);
    },
  };
};
