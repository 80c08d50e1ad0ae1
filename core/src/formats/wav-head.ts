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
const EXTENSIBLE = 0xfffe;
const LOWEST_RATE_HZ = 8000;
const HIGHEST_RATE_HZ = 192_000;

/** The form of plain files, and the two names of the one for files over 4 GiB. */
const FORMS = new Set(['RIFF', 'RF64', 'BW64']);
const LONG = new Set(['RF64', 'BW64']);
/** A size that stands elsewhere, or was not known when the file was begun. */
const UNSAID = 0xffff_ffff;
/** Chunks that recorders write, by which one that lacks its padding byte is recognised. */
const KNOWN = new Set([
  'fmt ',
  'data',
  'fact',
  'LIST',
  'bext',
  'JUNK',
  'junk',
  'ds64',
  'PEAK',
  'cue ',
  'smpl',
  'id3 ',
  'iXML',
  'axml',
  'PAD ',
]);
/** So much of a format is looked at. */
const FORMAT_BYTES = 40;

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

const OPEN = 'The file does not say how long it is; it was read to its end.';
const CUT = 'The file is cut short; what is there was read.';

const readFormat = (view: DataView): SampleFormat & { bits: number } => {
  const coding = view.getUint16(0, true);
  const bits = view.getUint16(14, true);
  return {
    // The extensible form keeps the true coding in the first two bytes of its sub-format.
    coding: coding === EXTENSIBLE && view.byteLength >= 26 ? view.getUint16(24, true) : coding,
    channels: view.getUint16(2, true),
    sampleRateHz: view.getUint32(4, true),
    bits,
    // Samples of odd lengths fill whole bytes, from the top.
    bytesPerSample: Math.ceil(bits / 8),
    littleEndian: true,
    signedBytes: false,
  };
};

const isKnown = ({ coding, bytesPerSample }: SampleFormat, bits: number): boolean => {
  if (coding === FLOAT) return bits === 32 || bits === 64;
  if (coding === A_LAW || coding === MU_LAW) return bytesPerSample === 1;
  return coding === PCM && bytesPerSample >= 1 && bytesPerSample <= 4;
};

const checked = (format: SampleFormat, bits = 8 * format.bytesPerSample): SampleFormat => {
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

/** Whether an address lies at the end of the file or at a chain of chunks that leads there. */
const chunksFollow = (source: ByteSource, from: number): boolean => {
  let at = from;
  while (at + 8 <= source.size) {
    if (!/^[\x20-\x7e]{4}$/.test(chunkName(source, at))) return false;
    const length = peek(source, at + 4, 4).getUint32(0, true);
    at += 8 + length + (length % 2);
  }
  return at >= source.size;
};

/**
 * Finds the sound in a WAV file: RIFF, or RF64 and BW64 over 4 GiB; also where the writer left the length at 0 or −1, as
 * recorders do that write while they record; odd chunks with or without their padding byte. Throws {@link UnreadableWav}.
 * Sources: "Multimedia Programming Interface and Data Specifications 1.0" (1991); EBU Tech 3306 and ITU-R BS.2088 for the long forms.
 */
export const readWavHead = (source: ByteSource): SoundHead => {
  const { size } = source;
  if (size === 0) throw new UnreadableWav('The file is empty. Choose a recording with sound in it.');
  const form = chunkName(source, 0);
  if (!FORMS.has(form) || chunkName(source, 8) !== 'WAVE')
    throw new UnreadableWav('This is not a WAV file. Export the recording as WAV (16 or 24 bit) and try again.');
  let format: (SampleFormat & { bits: number }) | null = null;
  let longBytes: number | null = null;
  let at = 12;
  while (at + 8 <= size) {
    const id = chunkName(source, at);
    const announced = peek(source, at + 4, 4).getUint32(0, true);
    const body = at + 8;
    const left = size - body;
    if (id === 'ds64' && Math.min(announced, left) >= 28) longBytes = Number(peek(source, body + 8, 8).getBigUint64(0, true));
    if (id === 'fmt ') {
      const view = peek(source, body, Math.min(announced, FORMAT_BYTES));
      if (view.byteLength < 16) throw new UnreadableWav('The WAV file is damaged: its format is cut short. Export it again.');
      format = readFormat(view);
    } else if (id === 'data') {
      if (!format) throw new UnreadableWav('The WAV file is damaged: its sound comes before its format. Export it again.');
      const said = announced === UNSAID && LONG.has(form) ? longBytes : announced;
      const isOpen = said === null || said === UNSAID || (said === 0 && left > 0 && !chunksFollow(source, body));
      const bytes = isOpen ? left : Math.min(said, left);
      const { bits, ...own } = format;
      const known = checked(own, bits);
      const frames = Math.floor(bytes / (known.bytesPerSample * known.channels));
      if (frames === 0) throw new UnreadableWav('The WAV file holds no sound. Choose a recording with sound in it.');
      return { format: known, at: body, frames, notes: isOpen ? [OPEN] : bytes < said ? [CUT] : [] };
    }
    const end = body + announced;
    const lacksPadding = announced % 2 === 1 && KNOWN.has(chunkName(source, end)) && !KNOWN.has(chunkName(source, end + 1));
    at = end + (lacksPadding ? 0 : announced % 2);
  }
  throw new UnreadableWav('The WAV file holds no sound. It may have been cut short while it was saved.');
};
