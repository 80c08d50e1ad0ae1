import {
  A_LAW,
  type ByteSource,
  chunkName,
  FLOAT,
  MU_LAW,
  PCM,
  peek,
  type SampleFormat,
  type SoundHead,
  soundOf,
  UnreadableWav,
} from './sound-head';

const IS_FLOAT = 1;
const IS_LITTLE_ENDIAN = 2;
const HEAD_BYTES = 8;
const CHUNK_HEAD_BYTES = 12;
/** The description of the sound; and the count of edits before it. */
const DESCRIPTION_BYTES = 32;
const EDIT_COUNT_BYTES = 4;

const formatOf = (view: DataView, name: string): SampleFormat => {
  const flags = view.getUint32(12);
  const codings: Readonly<Record<string, number>> = { lpcm: flags & IS_FLOAT ? FLOAT : PCM, alaw: A_LAW, ulaw: MU_LAW };
  const coding = codings[name];
  if (coding === undefined)
    throw new UnreadableWav(`The CAF file is compressed (${name.trim()}). Export it as WAV (16 or 24 bit).`);
  return {
    coding,
    littleEndian: (flags & IS_LITTLE_ENDIAN) !== 0,
    channels: view.getUint32(24),
    sampleRateHz: view.getFloat64(0),
    bytesPerSample: Math.ceil(view.getUint32(28) / 8),
    signedBytes: true,
  };
};

/**
 * Finds the sound in a CAF file without compression. Source: Core Audio Format Specification 1.0 (2006). Throws {@link UnreadableWav}.
 */
export const readCafHead = (source: ByteSource): SoundHead => {
  let format: SampleFormat | null = null;
  for (let at = HEAD_BYTES; at + CHUNK_HEAD_BYTES <= source.size; ) {
    const id = chunkName(source, at);
    const announced = Number(peek(source, at + 4, 8).getBigInt64(0));
    const body = at + CHUNK_HEAD_BYTES;
    if (id === 'desc') {
      const view = peek(source, body, DESCRIPTION_BYTES);
      if (view.byteLength < DESCRIPTION_BYTES)
        throw new UnreadableWav('The CAF file is damaged: its format is cut short. Export it again.');
      format = formatOf(view, chunkName(source, body + 8));
    } else if (id === 'data') {
      if (!format) throw new UnreadableWav('The CAF file is damaged: its sound comes before its format. Export it again.');
      // A length of −1 is one that was not known when it was begun: it goes on to the end.
      const from = body + EDIT_COUNT_BYTES;
      return soundOf(format, from, announced < 0 ? source.size - from : announced - EDIT_COUNT_BYTES, source.size);
    }
    if (announced < 0) break;
    at = body + announced;
  }
  throw new UnreadableWav('The CAF file holds no sound. It may have been cut short while it was saved.');
};
