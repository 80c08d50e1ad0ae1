/** A decoded recording: one channel of samples between −1 and 1. */
export interface Recording {
  sampleRateHz: number;
  samples: Float32Array;
  /** What had to be put right, in sentences for the player; empty for a faultless file. */
  notes: string[];
}

/** A file that cannot be read, with a message that says what is wrong and what to do. */
export class UnreadableWav extends Error {}

const PCM = 1;
const FLOAT = 3;
const EXTENSIBLE = 0xfffe;
const LOWEST_RATE_HZ = 8000;
const HIGHEST_RATE_HZ = 192_000;

const text = (view: DataView, at: number) => String.fromCharCode(...Array.from({ length: 4 }, (_, k) => view.getUint8(at + k)));

type Reader = (view: DataView, at: number) => number;

/** How one sample is read, by coding and bits. */
const READERS: Record<string, Reader> = {
  [`${PCM}/8`]: (view, at) => (view.getUint8(at) - 128) / 128,
  [`${PCM}/16`]: (view, at) => view.getInt16(at, true) / 32_768,
  [`${PCM}/24`]: (view, at) => ((view.getInt8(at + 2) << 16) | view.getUint16(at, true)) / 8_388_608,
  [`${PCM}/32`]: (view, at) => view.getInt32(at, true) / 2_147_483_648,
  [`${FLOAT}/32`]: (view, at) => view.getFloat32(at, true),
  [`${FLOAT}/64`]: (view, at) => view.getFloat64(at, true),
};

interface Format {
  coding: number;
  channels: number;
  sampleRateHz: number;
  bits: number;
}

const readFormat = (view: DataView, at: number, size: number): Format => {
  const coding = view.getUint16(at, true);
  return {
    // The extensible form keeps the true coding in the first two bytes of its sub-format.
    coding: coding === EXTENSIBLE && size >= 26 ? view.getUint16(at + 24, true) : coding,
    channels: view.getUint16(at + 2, true),
    sampleRateHz: view.getUint32(at + 4, true),
    bits: view.getUint16(at + 14, true),
  };
};

/**
 * Reads a RIFF/WAVE file of 8, 16, 24 or 32-bit integers or 32/64-bit floats, at 8 to 192 kHz. Several channels are
 * averaged into one. A data part that is shorter than announced is read as far as it goes, and said in `notes`.
 * Throws {@link UnreadableWav} otherwise. Source: "Multimedia Programming Interface and Data Specifications 1.0" (1991).
 */
export const readWav = (bytes: Uint8Array): Recording => {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  if (bytes.byteLength === 0) throw new UnreadableWav('The file is empty. Choose a recording with sound in it.');
  if (bytes.byteLength < 12 || text(view, 0) !== 'RIFF' || text(view, 8) !== 'WAVE') {
    throw new UnreadableWav('This is not a WAV file. Export the recording as WAV (16 or 24 bit) and try again.');
  }
  const notes: string[] = [];
  let format: Format | null = null;
  let at = 12;
  while (at + 8 <= bytes.byteLength) {
    const id = text(view, at);
    const announced = view.getUint32(at + 4, true);
    const body = at + 8;
    const size = Math.min(announced, bytes.byteLength - body);
    if (id === 'fmt ') {
      if (size < 16) throw new UnreadableWav('The WAV file is damaged: its format is cut short. Export it again.');
      format = readFormat(view, body, size);
    } else if (id === 'data') {
      if (!format) throw new UnreadableWav('The WAV file is damaged: its sound comes before its format. Export it again.');
      if (size < announced) notes.push('The file is cut short; what is there was read.');
      return { ...readSamples(view, body, size, format), notes };
    }
    at = body + announced + (announced % 2);
  }
  throw new UnreadableWav('The WAV file holds no sound. It may have been cut short while it was saved.');
};

/** The commonest coding, several times as fast as by single reads. */
const readShorts = (view: DataView, at: number, channels: number, samples: Float32Array): void => {
  // Every machine that browsers and Node run on has the lower byte first, as the file has. An odd address asks for a copy.
  const from = view.byteOffset + at;
  const count = channels * samples.length;
  const shorts =
    from % 2 ? new Int16Array(view.buffer.slice(from, from + 2 * count)) : new Int16Array(view.buffer, from, count);
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

const readSamples = (view: DataView, at: number, size: number, format: Format) => {
  const { coding, channels, sampleRateHz, bits } = format;
  const read = READERS[`${coding}/${bits}`];
  if (!read) {
    throw new UnreadableWav(
      `The WAV file uses a coding that is not supported (number ${coding}, ${bits} bit). Export it as 16 or 24 bit PCM.`,
    );
  }
  if (sampleRateHz < LOWEST_RATE_HZ || sampleRateHz > HIGHEST_RATE_HZ) {
    throw new UnreadableWav(`A sample rate of ${sampleRateHz} Hz is not supported. Export it at 44 100 or 48 000 Hz.`);
  }
  if (channels < 1) throw new UnreadableWav('The WAV file is damaged: it says that it has no channels. Export it again.');
  const bytesPerSample = bits / 8;
  const frames = Math.floor(size / (bytesPerSample * channels));
  if (frames === 0) throw new UnreadableWav('The WAV file holds no sound. Choose a recording with sound in it.');
  const samples = new Float32Array(frames);
  if (coding === PCM && bits === 16) readShorts(view, at, channels, samples);
  else
    for (let frame = 0; frame < frames; frame += 1) {
      let sum = 0;
      for (let channel = 0; channel < channels; channel += 1) {
        sum += read(view, at + (frame * channels + channel) * bytesPerSample);
      }
      const value = sum / channels;
      samples[frame] = Number.isFinite(value) ? value : 0;
    }
  return { sampleRateHz, samples };
};

/** Writes mono samples (−1…1, clipped beyond) as a 16-bit PCM WAV file. */
export const writeWav = (samples: Float32Array, sampleRateHz: number): Uint8Array<ArrayBuffer> => {
  const bytes = new Uint8Array(44 + samples.length * 2);
  const view = new DataView(bytes.buffer);
  const put = (at: number, value: string) => {
    for (let k = 0; k < value.length; k += 1) view.setUint8(at + k, value.charCodeAt(k));
  };
  put(0, 'RIFF');
  view.setUint32(4, 36 + samples.length * 2, true);
  put(8, 'WAVE');
  put(12, 'fmt ');
  view.setUint32(16, 16, true);
  view.setUint16(20, PCM, true);
  view.setUint16(22, 1, true);
  view.setUint32(24, sampleRateHz, true);
  view.setUint32(28, sampleRateHz * 2, true);
  view.setUint16(32, 2, true);
  view.setUint16(34, 16, true);
  put(36, 'data');
  view.setUint32(40, samples.length * 2, true);
  samples.forEach((value, n) => {
    view.setInt16(44 + n * 2, Math.round(Math.max(-1, Math.min(1, value)) * 32_767), true);
  });
  return bytes;
};
