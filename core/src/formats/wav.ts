import { readAiffHead } from './aiff-head';
import { readCafHead } from './caf-head';
import { A_LAW_SAMPLES, MU_LAW_SAMPLES } from './g711';
import { isCancelled } from './opposite-phase';
import { A_LAW, type ByteSource, chunkName, FLOAT, MU_LAW, PCM, type SampleFormat, type SoundHead } from './sound-head';
import type { SoundSource } from './sound-source';
import { readWavHead } from './wav-head';

/** A decoded recording: one channel of samples between −1 and 1. */
export interface Recording {
  sampleRateHz: number;
  samples: Float32Array;
  /** What had to be put right, in sentences for the player; empty for a faultless file. */
  notes: string[];
}

type Reader = (view: DataView, at: number, format: SampleFormat) => number;

const readThreeBytes: Reader = (view, at, { littleEndian }) =>
  littleEndian
    ? (view.getInt8(at + 2) << 16) | view.getUint16(at, true)
    : (view.getInt8(at) << 16) | view.getUint16(at + 1, false);

/** How one sample is read, by coding and bytes. */
const READERS: Record<string, Reader> = {
  [`${PCM}/1`]: (view, at, { signedBytes }) => (signedBytes ? view.getInt8(at) : view.getUint8(at) - 128) / 128,
  [`${PCM}/2`]: (view, at, { littleEndian }) => view.getInt16(at, littleEndian) / 32_768,
  [`${PCM}/3`]: (view, at, format) => readThreeBytes(view, at, format) / 8_388_608,
  [`${PCM}/4`]: (view, at, { littleEndian }) => view.getInt32(at, littleEndian) / 2_147_483_648,
  [`${FLOAT}/4`]: (view, at, { littleEndian }) => view.getFloat32(at, littleEndian),
  [`${FLOAT}/8`]: (view, at, { littleEndian }) => view.getFloat64(at, littleEndian),
  [`${A_LAW}/1`]: (view, at) => A_LAW_SAMPLES[view.getUint8(at)] as number,
  [`${MU_LAW}/1`]: (view, at) => MU_LAW_SAMPLES[view.getUint8(at)] as number,
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

/**
 * The frames that stand in these bytes of a file's sound, as one channel between −1 and 1: the mean of all, or the first alone.
 */
export const decodeWav = (bytes: Uint8Array, format: SampleFormat, firstAlone = false): Float32Array => {
  const { coding, channels, bytesPerSample, littleEndian } = format;
  const samples = new Float32Array(Math.floor(bytes.length / (bytesPerSample * channels)));
  if (coding === PCM && bytesPerSample === 2 && littleEndian && !firstAlone) {
    readShorts(bytes, channels, samples);
    return samples;
  }
  const heard = firstAlone ? 1 : channels;
  const read = READERS[`${coding}/${bytesPerSample}`] as Reader;
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  for (let frame = 0; frame < samples.length; frame += 1) {
    let sum = 0;
    for (let channel = 0; channel < heard; channel += 1)
      sum += read(view, (frame * channels + channel) * bytesPerSample, format);
    const value = sum / heard;
    samples[frame] = Number.isFinite(value) ? value : 0;
  }
  return samples;
};

const OPPOSITE = 'Its channels cancel each other out; the first one was taken alone.';
/** So many places of a long sound are looked at, of so many frames each. */
const LOOKS = 16;
const LOOK_FRAMES = 4096;

/** Whether the channels of a sound cancel each other out, by looks at it from beginning to end. */
const looksCancelled = (frames: number, read: (from: number, to: number, firstAlone: boolean) => Float32Array): boolean => {
  const looks = Array.from({ length: LOOKS }, (_, k) => Math.floor((k * frames) / LOOKS));
  const all = (firstAlone: boolean) =>
    Float32Array.from(looks.flatMap((from) => [...read(from, Math.min(frames, from + LOOK_FRAMES), firstAlone)]));
  return isCancelled(all(false), all(true));
};

/** Where the sound lies in a file of one of the forms that are read: WAV where it is none of the others. */
export const soundHead = (source: ByteSource): SoundHead => {
  const form = chunkName(source, 0);
  if (form === 'caff') return readCafHead(source);
  return form === 'FORM' && chunkName(source, 8).startsWith('AIF') ? readAiffHead(source) : readWavHead(source);
};

/**
 * Opens a WAV, AIFF or CAF file, or any bytes whose head is told, of 8 to 32-bit integers, 32/64-bit floats, A-law or µ-law, at 8 to 192 kHz, to be read by parts. Several channels are
 * averaged into one. A sound that is shorter than announced is read as far as it goes, and said in `notes`.
 * Throws {@link UnreadableWav} otherwise; see {@link readWavHead} for the forms.
 */
export const openWav = (source: ByteSource, head: SoundHead = soundHead(source)): SoundSource => {
  const { format, at, frames, notes } = head;
  const frameBytes = format.bytesPerSample * format.channels;
  const within = (frame: number) => at + Math.min(frames, Math.max(0, frame)) * frameBytes;
  const bytesOf = (from: number, to: number) => source.read(within(from), Math.max(within(from), within(to)));
  const firstAlone =
    format.channels > 1 && looksCancelled(frames, (from, to, alone) => decodeWav(bytesOf(from, to), format, alone));
  return {
    sampleRateHz: format.sampleRateHz,
    frames,
    notes: firstAlone ? [...notes, OPPOSITE] : notes,
    read: (from, to) => decodeWav(bytesOf(from, to), format, firstAlone),
  };
};

/** Reads a whole file of sound that is in memory; see {@link openWav}. */
export const readWav = (bytes: Uint8Array, head?: SoundHead): Recording => {
  const { sampleRateHz, frames, notes, read } = openWav(
    { size: bytes.byteLength, read: (from, to) => bytes.subarray(from, to) },
    head,
  );
  return { sampleRateHz, samples: read(0, frames), notes };
};
