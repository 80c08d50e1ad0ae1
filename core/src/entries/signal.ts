/** Listening, without the rest of core: for programs that only hear, and for the benchmarks. */

// Reasons are made by codes that the dictionaries name.
import type {} from '../words/describe-reason';

export { CUT, PCM, soundOf, UnreadableWav } from '../formats/sound-head';
export * from '../formats/wav';
export * from '../formats/wav-write';
export * from '../signal/click-onsets';
export * from '../signal/click-removal';
export * from '../signal/detect-onsets';
export * from '../signal/families';
export * from '../signal/grid-prior';
export * from '../signal/mix';
export * from '../signal/perceptron';
export * from '../signal/refine-onset';
export * from '../signal/spectrum';
