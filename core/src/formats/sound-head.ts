import { AppError } from '../schema/app-error';

/** A file that cannot be read, with a message that says what is wrong and what to do. */
export class UnreadableWav extends AppError {}

/** The bytes of a file, however long, fetched by parts. */
export interface ByteSource {
  size: number;
  /** The bytes from one address up to, not including, another; both within the file. */
  read(from: number, to: number): Uint8Array;
}

/** How the samples of a file are written. */
export interface SampleFormat {
  coding: number;
  channels: number;
  sampleRateHz: number;
  /** Bytes of one sample of one channel. */
  bytesPerSample: number;
  /** The lowest byte first, as in WAV. */
  littleEndian: boolean;
  /** Whether samples of one byte have a sign; in WAV they have none. */
  signedBytes: boolean;
}

/** Where the sound of a file lies and how it is written. */
export interface SoundHead {
  format: SampleFormat;
  /** Address of the first frame, and how many there are. */
  at: number;
  frames: number;
  /** What had to be put right, in sentences for the player; empty for a faultless file. */
  notes: string[];
}

export const PCM = 1;
export const FLOAT = 3;
export const A_LAW = 6;
export const MU_LAW = 7;
/** Rates that are read. */
const LOWEST_RATE_HZ = 8000;
const HIGHEST_RATE_HZ = 192_000;

export const CUT = 'The file is cut short; what is there was read.';

/** So many bytes from an address on, fewer at the end of the file. */
export const peek = ({ size, read }: ByteSource, at: number, length: number): DataView => {
  const bytes = at < size ? read(at, Math.min(size, at + length)) : new Uint8Array(0);
  return new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
};

/** Four letters at an address; fewer at the end of the file. */
export const chunkName = (source: ByteSource, at: number): string => {
  const view = peek(source, at, 4);
  return String.fromCharCode(...new Uint8Array(view.buffer, view.byteOffset, view.byteLength));
};

const isKnown = ({ coding, bytesPerSample }: SampleFormat, bits: number): boolean => {
  if (coding === FLOAT) return bits === 32 || bits === 64;
  if (coding === A_LAW || coding === MU_LAW) return bytesPerSample === 1;
  return coding === PCM && bytesPerSample >= 1 && bytesPerSample <= 4;
};

/** A format that is read. Throws {@link UnreadableWav} for any other. */
export const checked = (format: SampleFormat, bits = 8 * format.bytesPerSample): SampleFormat => {
  const { coding, channels, sampleRateHz } = format;
  if (!isKnown(format, bits))
    throw new UnreadableWav(
      `The file uses a coding that is not supported (number ${coding}, ${bits} bit). Export it as 16 or 24 bit PCM.`,
    );
  if (!(sampleRateHz >= LOWEST_RATE_HZ && sampleRateHz <= HIGHEST_RATE_HZ))
    throw new UnreadableWav(`A sample rate of ${sampleRateHz} Hz is not supported. Export it at 44 100 or 48 000 Hz.`);
  if (channels < 1) throw new UnreadableWav('The file is damaged: it says that it has no channels. Export it again.');
  return format;
};

/**
 * A sound of so many bytes from an address on, as far as the file goes. Throws {@link UnreadableWav} where it is none, or of a form that is
 * not read.
 */
export const soundOf = (format: SampleFormat, at: number, bytes: number, size: number): SoundHead => {
  const known = checked(format);
  const there = Math.max(0, Math.min(bytes, size - at));
  const frames = Math.floor(there / (known.bytesPerSample * known.channels));
  if (frames === 0) throw new UnreadableWav('The file holds no sound. Choose a recording with sound in it.');
  return { format: known, at, frames, notes: there < bytes ? [CUT] : [] };
};
