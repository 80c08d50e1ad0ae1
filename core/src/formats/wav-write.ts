import { PCM } from './sound-head';

const SHORT_BYTES = 2;
/** Beyond this a plain file cannot say how long it is. */
const LARGEST_PLAIN = 0xffff_ffff;
const PLAIN_HEAD = 44;
const LONG_HEAD = 80;

/**
 * The head of a 16-bit mono WAV file with so many samples; the samples follow, low byte first. Over 4 GiB it has the long form
 * (RF64, EBU Tech 3306).
 */
export const wavHead = (samples: number, sampleRateHz: number): Uint8Array<ArrayBuffer> => {
  const dataBytes = samples * SHORT_BYTES;
  const isLong = dataBytes + PLAIN_HEAD > LARGEST_PLAIN;
  const bytes = new Uint8Array(isLong ? LONG_HEAD : PLAIN_HEAD);
  const view = new DataView(bytes.buffer);
  let at = 0;
  const name = (value: string) => {
    for (const letter of value) view.setUint8(at++, letter.charCodeAt(0));
  };
  const int = (value: number) => {
    view.setUint32(at, value, true);
    at += 4;
  };
  const short = (value: number) => {
    view.setUint16(at, value, true);
    at += 2;
  };
  const long = (value: number) => {
    view.setBigUint64(at, BigInt(value), true);
    at += 8;
  };
  name(isLong ? 'RF64' : 'RIFF');
  int(isLong ? LARGEST_PLAIN : PLAIN_HEAD - 8 + dataBytes);
  name('WAVE');
  if (isLong) {
    name('ds64');
    int(28);
    long(LONG_HEAD - 8 + dataBytes);
    long(dataBytes);
    long(samples);
    int(0);
  }
  name('fmt ');
  int(16);
  short(PCM);
  short(1);
  int(sampleRateHz);
  int(sampleRateHz * SHORT_BYTES);
  short(SHORT_BYTES);
  short(8 * SHORT_BYTES);
  name('data');
  int(isLong ? LARGEST_PLAIN : dataBytes);
  return bytes;
};

/** A sample (−1…1, clipped beyond) as 16 bits. */
export const shortOf = (value: number): number => Math.round(Math.max(-1, Math.min(1, value)) * 32_767);

/** Writes mono samples (−1…1, clipped beyond) as a 16-bit PCM WAV file. */
export const writeWav = (samples: Float32Array, sampleRateHz: number): Uint8Array<ArrayBuffer> => {
  const head = wavHead(samples.length, sampleRateHz);
  const bytes = new Uint8Array(head.length + samples.length * SHORT_BYTES);
  bytes.set(head);
  const shorts = new Int16Array(bytes.buffer, head.length);
  for (let n = 0; n < samples.length; n += 1) shorts[n] = shortOf(samples[n] as number);
  return bytes;
};
