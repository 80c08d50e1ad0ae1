/** A sound that begins at an exact frame of a clock. */
export interface PlacedSound {
  frame: number;
  samples: Float32Array;
  gain?: number;
}

/** A sound that fades out from a frame of its clock on, over so many frames. */
export const fadedFrom = (sound: PlacedSound, fromFrame: number, frames: number): PlacedSound => {
  const at = Math.max(0, fromFrame - sound.frame);
  const samples = sound.samples.slice(0, at + frames).map((value, n) => (n < at ? value : value * (1 - (n - at + 1) / frames)));
  return { ...sound, samples };
};

/** Adds a sound into a block whose first sample is frame `blockFrame`; what falls outside is left out. Sample-exact. */
export const mixInto = (block: Float32Array, blockFrame: number, { frame, samples, gain = 1 }: PlacedSound): void => {
  const from = Math.max(frame, blockFrame);
  const to = Math.min(frame + samples.length, blockFrame + block.length);
  for (let n = from; n < to; n += 1) {
    block[n - blockFrame] = (block[n - blockFrame] as number) + gain * (samples[n - frame] as number);
  }
};
