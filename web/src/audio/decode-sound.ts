import { isCancelled } from '@isochron/core/material';
import { AppError } from '@isochron/core/schema';

const UNDECODABLE =
  'The browser cannot read sound from this file. Export it as WAV (16 or 24 bit) or as a Standard MIDI File, and try again.';

/** Decodes sound in any form that the browser knows, at a sampling rate. Throws with a sentence for the player. */
export const decodeSound = async (bytes: ArrayBuffer, sampleRateHz = 48_000): Promise<AudioBuffer> => {
  try {
    return await new OfflineAudioContext(1, 1, sampleRateHz).decodeAudioData(bytes);
  } catch {
    throw new AppError(UNDECODABLE);
  }
};

/** All channels of a sound as one; the first alone where they cancel each other out. */
export const monoOf = (buffer: AudioBuffer): Float32Array<ArrayBuffer> => {
  const samples = new Float32Array(buffer.length);
  for (let channel = 0; channel < buffer.numberOfChannels; channel += 1) {
    const one = buffer.getChannelData(channel);
    for (let n = 0; n < samples.length; n += 1)
      samples[n] = (samples[n] as number) + (one[n] as number) / buffer.numberOfChannels;
  }
  const first = buffer.getChannelData(0);
  return buffer.numberOfChannels > 1 && isCancelled(samples, first) ? new Float32Array(first) : samples;
};
