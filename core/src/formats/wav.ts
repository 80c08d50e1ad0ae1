import type { SoundSource } from './sound-source';
import { type ByteSource, FLOAT, PCM, readWavHead, type WavFormat } from './wav-head';

/** A decoded recording: one channel of samples between −1 and 1. */
export interface Recording {
  sampleRateHz: number;
  samples: Float32Array;
  /** What had to be put right, in sentences for the player; empty for a faultless file. */
  notes: string[];
}

type Reader = (view: DataView, at: number) => number;

/** How one sample is read, by coding and bytes. */
const READERS: Record<string, Reader> = {
  [`${PCM}/1`]: (view, at) => (view.getUint8(at) - 128) / 128,
  [`${PCM}/2`]: (view, at) => view.getInt16(at, true) / 32_768,
  [`${PCM}/3`]: (view, at) => ((view.getInt8(at + 2) << 16) | view.getUint16(at, true)) / 8_388_608,
  [`${PCM}/4`]: (view, at) => view.getInt32(at, true) / 2_147_483_648,
  [`${FLOAT}/4`]: (view, at) => view.getFloat32(at, true),
  [`${FLOAT}/8`]: (view, at) => view.getFloat64(at, true),
};

/** The commonest coding, several times as fast as by single reads. */
const readShorts = (bytes: Uint8Array, channels: number, samples: Float32Array): void => {
  // Every machine that browsers and Node run on has the lower byte first, as the file has. An odd address asks for a copy.
  const count = channels * samples.length;
  const from = bytes.byteOffset;
  const shorts = from % 2 ? new Int16Array(bytes.slice(0, 2 * count).buffer) : new Int16Array(bytes.buffer, from, count);
  const scale = 1 / (32_768 * channels);
  if (channels === 1) {
    samples.set(shorts);
    for (let frame = 0; frame < samples.length; frame += 1) samples[frame] = (samples[frame] as number) * scale;
    return;
  }
  for (let frame = 0, n = 0; frame < samples.length; frame += 1) {
    let sum = 0;
    for (let channel = 0; channel < channels; channel += 1, n += 1) sum += shorts[n] as number;
    samples[frame] = sum * scale;
  }
};

/** The frames that stand in these bytes of a WAV file's sound, as one channel between −1 and 1. */
export const decodeWav = (bytes: Uint8Array, { coding, channels, bytesPerSample }: WavFormat): Float32Array => {
  const samples = new Float32Array(Math.floor(bytes.length / (bytesPerSample * channels)));
  if (coding === PCM && bytesPerSample === 2) {
    readShorts(bytes, channels, samples);
    return samples;
  }
  const read = READERS[`${coding}/${bytesPerSample}`] as Reader;
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  for (let frame = 0; frame < samples.length; frame += 1) {
    let sum = 0;
    for (let channel = 0; channel < channels; channel += 1) sum += read(view, (frame * channels + channel) * bytesPerSample);
    const value = sum / channels;
    samples[frame] = Number.isFinite(value) ? value : 0;
  }
  return samples;
};

/**
 * Opens a WAV file of 8 to 32-bit integers or 32/64-bit floats, at 8 to 192 kHz, to be read by parts. Several channels are
 * averaged into one. A sound that is shorter than announced is read as far as it goes, and said in `notes`.
 * Throws {@link UnreadableWav} otherwise; see {@link readWavHead} for the forms.
 */
export const openWav = (source: ByteSource): SoundSource => {
  const { format, at, frames, notes } = readWavHead(source);
  const frameBytes = format.bytesPerSample * format.channels;
  const within = (frame: number) => at + Math.min(frames, Math.max(0, frame)) * frameBytes;
  return {
    sampleRateHz: format.sampleRateHz,
    frames,
    notes,
    read: (from, to) => decodeWav(source.read(within(from), Math.max(within(from), within(to))), format),
  };
};

/** Reads a whole WAV file that is in memory; see {@link openWav}. */
export const readWav = (bytes: Uint8Array): Recording => {
  const { sampleRateHz, frames, notes, read } = openWav({
    size: bytes.byteLength,
    read: (from, to) => bytes.subarray(from, to),
  });
  return { sampleRateHz, samples: read(0, frames), notes };
};
