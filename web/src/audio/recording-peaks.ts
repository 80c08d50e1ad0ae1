import { decodeWav, readWavHead } from '@isochron/core/material';
import { AppError } from '@isochron/core/schema';

/** The shape of a recording that is too long to be taken into memory: the greatest sample of each piece, and how long it is. */
export interface RecordingPeaks {
  peaks: Float32Array;
  durationS: number;
}

/** Longer recordings than this, in bytes, are looked at by parts: a quarter of an hour at 48 kHz. */
const LONG_BYTES = 86_400_000;
const HEAD_BYTES = 65_536;
const WINDOW_BYTES = 8_000_000;
const PEAKS_PER_S = 40;

const bytesOf = async (address: string, from: number, to: number, signal: AbortSignal): Promise<Uint8Array> => {
  const answer = await fetch(address, { headers: { Range: `bytes=${from}-${to - 1}` }, signal });
  if (!answer.ok) throw new AppError('The recording cannot be fetched.');
  return new Uint8Array(await answer.arrayBuffer());
};

/**
 * The peaks of a long recording, fetched by parts; null for one that is short enough to be fetched whole. `onProgress` is told the
 * share done, 0…1.
 */
export const recordingPeaks = async (
  address: string,
  signal: AbortSignal,
  onProgress: (share: number) => void,
): Promise<RecordingPeaks | null> => {
  const size = Number((await fetch(address, { method: 'HEAD', signal })).headers.get('Content-Length') ?? 0);
  if (size <= LONG_BYTES) return null;
  const start = await bytesOf(address, 0, HEAD_BYTES, signal);
  const { format, at, frames } = readWavHead({ size, read: (from, to) => start.subarray(from, to) });
  const { sampleRateHz, channels, bytesPerSample } = format;
  const frameBytes = channels * bytesPerSample;
  const every = Math.round(sampleRateHz / PEAKS_PER_S);
  const peaks = new Float32Array(Math.ceil(frames / every));
  // Windows of whole pieces, so that no piece is torn.
  const step = every * Math.max(1, Math.floor(WINDOW_BYTES / (every * frameBytes)));
  for (let frame = 0; frame < frames; frame += step) {
    const end = Math.min(frames, frame + step);
    const samples = decodeWav(await bytesOf(address, at + frame * frameBytes, at + end * frameBytes, signal), format);
    for (let n = 0; n < samples.length; n += 1) {
      const piece = Math.floor((frame + n) / every);
      const value = samples[n] as number;
      if (Math.abs(value) > Math.abs(peaks[piece] as number)) peaks[piece] = value;
    }
    onProgress(end / frames);
  }
  return { peaks, durationS: frames / sampleRateHz };
};
