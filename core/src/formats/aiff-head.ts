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

const DAMAGED = 'The AIFF file is damaged: its format is cut short. Export it again.';

/** What AIFF-C calls its codings; plain AIFF has none. */
const CODINGS: Readonly<Record<string, Pick<SampleFormat, 'coding' | 'littleEndian'>>> = {
  NONE: { coding: PCM, littleEndian: false },
  twos: { coding: PCM, littleEndian: false },
  sowt: { coding: PCM, littleEndian: true },
  fl32: { coding: FLOAT, littleEndian: false },
  FL32: { coding: FLOAT, littleEndian: false },
  fl64: { coding: FLOAT, littleEndian: false },
  FL64: { coding: FLOAT, littleEndian: false },
  alaw: { coding: A_LAW, littleEndian: false },
  ALAW: { coding: A_LAW, littleEndian: false },
  ulaw: { coding: MU_LAW, littleEndian: false },
  ULAW: { coding: MU_LAW, littleEndian: false },
};

/** An 80-bit number, as AIFF has its sample rate: a sign, 15 bits of exponent, 64 of mantissa. */
const extended = (view: DataView, at: number): number => {
  const exponent = (view.getUint16(at) & 0x7fff) - 16_383;
  return view.getUint32(at + 2) * 2 ** (exponent - 31) + view.getUint32(at + 6) * 2 ** (exponent - 63);
};

/**
 * Finds the sound in an AIFF or AIFF-C file without compression. Sources: Audio Interchange File Format 1.3 (1989); AIFF-C draft (1991).
 * Throws {@link UnreadableWav}.
 */
export const readAiffHead = (source: ByteSource): SoundHead => {
  const isC = chunkName(source, 8) === 'AIFC';
  let format: SampleFormat | null = null;
  let sound: { at: number; bytes: number } | null = null;
  for (let at = 12; at + 8 <= source.size && !(format && sound); ) {
    const length = peek(source, at + 4, 4).getUint32(0);
    const id = chunkName(source, at);
    const body = at + 8;
    if (id === 'COMM') {
      const view = peek(source, body, isC ? 22 : 18);
      if (view.byteLength < (isC ? 22 : 18)) throw new UnreadableWav(DAMAGED);
      const name = isC ? chunkName(source, body + 18) : 'NONE';
      const known = CODINGS[name];
      if (!known) throw new UnreadableWav(`The AIFF file is compressed (${name}). Export it without compression.`);
      const isTelephone = known.coding === A_LAW || known.coding === MU_LAW;
      format = {
        ...known,
        channels: view.getUint16(0),
        sampleRateHz: extended(view, 8),
        bytesPerSample: isTelephone ? 1 : Math.ceil(view.getUint16(6) / 8),
        signedBytes: true,
      };
    } else if (id === 'SSND') {
      // The first sample stands behind the chunk's own offset.
      const skipped = 8 + (source.size >= body + 4 ? peek(source, body, 4).getUint32(0) : 0);
      sound = { at: body + skipped, bytes: length - skipped };
    }
    at = body + length + (length % 2);
  }
  if (!format || !sound)
    throw new UnreadableWav('The AIFF file holds no sound. It may have been cut short while it was saved.');
  return soundOf(format, sound.at, sound.bytes, source.size);
};
