/** So much less energy than in its first channel is left in the mean of them where channels are each other's opposite: 13 dB. */
const LEFT_SHARE = 0.05;

const energyOf = (samples: Float32Array): number => samples.reduce((sum, sample) => sum + sample * sample, 0);

/**
 * Whether the channels of a sound take each other away when they are averaged, as where one was wired the wrong way round: then the first
 * one is heard alone.
 *
 * @param mean of all channels
 */
export const isCancelled = (mean: Float32Array, first: Float32Array): boolean => energyOf(mean) < LEFT_SHARE * energyOf(first);
