import { type ByteSource, CUT, checked, chunkName, peek, type SampleFormat, type SoundHead, UnreadableWav } from './sound-head';

const EXTENSIBLE = 0xfffe;
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

const OPEN = 'The file does not say how long it is; it was read to its end.';

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
