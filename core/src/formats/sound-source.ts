/** A sound of any length, read by parts: one channel of samples between −1 and 1. */
export interface SoundSource {
  sampleRateHz: number;
  /** How many samples there are. */
  frames: number;
  /** What had to be put right, in sentences for the player; empty for a faultless file. */
  notes: string[];
  /** The samples from one frame up to, not including, another; shorter where the sound ends before. */
  read(from: number, to: number): Float32Array;
}

/** A sound that is in memory. */
export const soundInMemory = (samples: Float32Array, sampleRateHz: number): SoundSource => ({
  sampleRateHz,
  frames: samples.length,
  notes: [],
  read: (from, to) => samples.subarray(Math.max(0, from), Math.max(0, to)),
});
