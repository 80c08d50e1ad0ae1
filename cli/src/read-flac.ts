import { CUT, PCM, type Recording, readWav, soundOf, UnreadableWav } from '@isochron/core/signal';
import Flac from 'libflacjs/dist/libflac.min.js';

const MAGIC = 'fLaC';
/** Decoded, a sound must fit into memory. */
const MOST_BYTES = 1e9;
const DAMAGED = 'The file is damaged: its sound is not what its check sum says. What could be read was read; export it again.';

/** The decoder is there a moment after it was loaded. */
const isReady = new Promise<void>((resolve) => {
  if (Flac.isReady()) resolve();
  else Flac.on('ready', () => resolve());
});

/** Whether a file is FLAC, by its first bytes. */
export const isFlac = (bytes: Uint8Array): boolean => String.fromCharCode(...bytes.subarray(0, MAGIC.length)) === MAGIC;

/** How one sample of a decoded block is read, by its bits, as 32 bits; three bytes come padded to four. */
const READERS: Readonly<Record<number, { bytes: number; read(view: DataView, at: number): number }>> = {
  16: { bytes: 2, read: (view, at) => view.getInt16(at, true) << 16 },
  24: { bytes: 4, read: (view, at) => view.getInt32(at, true) << 8 },
};

/** The bytes of a block of samples, one array for each channel, as frames of 32 bits one after the other. */
const interleaved = (block: readonly Uint8Array[], bits: number): Uint8Array => {
  const reader = READERS[bits];
  if (!reader) throw new UnreadableWav(`FLAC of ${bits} bit is not supported. Export it as 16 or 24 bit FLAC or WAV.`);
  const frames = Math.floor((block[0]?.length ?? 0) / reader.bytes);
  const views = block.map((samples) => new DataView(samples.buffer, samples.byteOffset, samples.byteLength));
  const whole = new Int32Array(frames * views.length);
  for (let frame = 0, n = 0; frame < frames; frame += 1)
    for (const view of views) {
      whole[n] = reader.read(view, frame * reader.bytes);
      n += 1;
    }
  return new Uint8Array(whole.buffer);
};

/**
 * Reads a whole FLAC file (RFC 9639), decoded by libFLAC, as one channel; what is damaged or cut short is said in its notes.
 * Throws {@link UnreadableWav} where it holds no sound, or more than fits into memory.
 */
export const readFlac = async (bytes: Uint8Array): Promise<Recording> => {
  await isReady;
  const blocks: Uint8Array[] = [];
  let told: { sampleRate: number; channels: number; total_samples: number } | undefined;
  let decodedBytes = 0;
  let refusal: UnreadableWav | null = null;
  let at = 0;
  const decoder = Flac.create_libflac_decoder(true);
  Flac.init_decoder_stream(
    decoder,
    (size) => {
      const buffer = bytes.slice(at, at + size);
      at += buffer.length;
      return { buffer, readDataLength: buffer.length, error: refusal !== null };
    },
    (block, { bitsPerSample }) => {
      if (refusal) return;
      try {
        const frames = interleaved(block, bitsPerSample);
        decodedBytes += frames.length;
        if (decodedBytes > MOST_BYTES) throw new UnreadableWav('The sound is too long. Keep only the part that you want.');
        blocks.push(frames);
      } catch (error) {
        // Nothing is thrown through the decoder's own code.
        refusal = error as UnreadableWav;
      }
    },
    // What is wrong is told by the sum that is checked at the end.
    () => {},
    (streamInfo) => {
      told ??= streamInfo;
    },
  );
  Flac.FLAC__stream_decoder_process_until_end_of_stream(decoder);
  const isIntact = Flac.FLAC__stream_decoder_finish(decoder);
  Flac.FLAC__stream_decoder_delete(decoder);
  if (refusal) throw refusal;
  const channels = told?.channels ?? 1;
  const decoded = Buffer.concat(blocks);
  const format = {
    coding: PCM,
    channels,
    sampleRateHz: told?.sampleRate ?? 0,
    bytesPerSample: Int32Array.BYTES_PER_ELEMENT,
    littleEndian: true,
    signedBytes: true,
  };
  const isCut = decoded.length < (told?.total_samples ?? 0) * channels * format.bytesPerSample;
  const notes = isCut ? [CUT] : isIntact ? [] : [DAMAGED];
  return readWav(decoded, { ...soundOf(format, 0, decoded.length, decoded.length), notes });
};
