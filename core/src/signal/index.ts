/** Listening, without the rest of core: for programs that only hear, and for the benchmarks. */
export * from '../formats/wav';
export * from './click-onsets';
export * from './click-removal';
export * from './detect-onsets';
export * from './families';
export * from './grid-prior';
export * from './mix';
export * from './onset-candidates';
export * from './onset-judge';
export * from './perceptron';
export * from './refine-onset';
export * from './spectrum';
