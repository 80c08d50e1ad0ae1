/** A sound that begins at an exact frame of a clock. */
export interface PlacedSound {
  frame: number;
  samples: Float32Array;
  gain?: number;
}

/** Adds a sound into a block whose first sample is frame `blockFrame`; what falls outside is left out. Sample-exact. */
export const mixInto = (block: Float32Array, blockFrame: number, { frame, samples, gain = 1 }: PlacedSound): void => {
  const from = Math.max(frame, blockFrame);
  const to = Math.min(frame + samples.length, blockFrame + block.length);
  for (let n = from; n < to; n += 1) {
    block[n - blockFrame] = (block[n - blockFrame] as number) + gain * (samples[n - frame] as number);
  }
};
