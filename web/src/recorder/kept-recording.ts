import type { Gap } from '@isochron/core/schema';
import { type Chunk, chunkNumbers, chunksBetween, keptGaps } from './safe-store';
import { chunksHeld } from './unsent';

/** A take's recording as it is kept: read by the second, so that hours of it need no more memory than a minute. */
export interface KeptRecording {
  sampleRateHz: number;
  /** How many samples there are, with those that are missing. */
  frames: number;
  /** How many seconds that is, the last one counted whole. */
  seconds: number;
  /** Where sound is missing; silence stands there. */
  gaps: Gap[];
  /** The samples of the seconds from one number up to, not including, another. */
  read(from: number, to: number): Promise<Int16Array<ArrayBuffer>>;
}

/** Gaps that touch or overlap as one, in order. */
const merged = (gaps: readonly Gap[]): Gap[] => {
  const found: Gap[] = [];
  for (const { fromS, toS } of [...gaps].sort((a, b) => a.fromS - b.fromS)) {
    const last = found.at(-1);
    if (last && fromS <= last.toS) last.toS = Math.max(last.toS, toS);
    else found.push({ fromS, toS });
  }
  return found;
};

/** A take's recording as kept so far, or null where none is. */
export const keptRecording = async (takeId: string): Promise<KeptRecording | null> => {
  const held = chunksHeld(takeId);
  // Where the browser's storage cannot be read, what is held in memory is all there is.
  const orNone = <Value>(found: Promise<Value[]>): Promise<Value[]> =>
    found.catch((error: unknown) => {
      if (held.size === 0) throw error;
      return [];
    });
  const numbers = new Set([...(await orNone(chunkNumbers(takeId))), ...held.keys()]);
  if (numbers.size === 0) return null;
  const last = [...numbers].reduce((latest, number) => Math.max(latest, number), 0);
  const chunks = async (from: number, to: number): Promise<Chunk[]> => [
    ...(await orNone(chunksBetween(takeId, from, to))),
    ...[...held.values()].filter(({ number }) => number >= from && number < to),
  ];
  const lastChunk = (await chunks(last, last + 1))[0] as Chunk;
  const { sampleRateHz } = lastChunk;
  const frames = last * sampleRateHz + lastChunk.samples.length;
  const missing = Array.from({ length: last }, (_, second) => second).filter((second) => !numbers.has(second));
  return {
    sampleRateHz,
    frames,
    seconds: last + 1,
    gaps: merged([...(await orNone(keptGaps(takeId))), ...missing.map((second) => ({ fromS: second, toS: second + 1 }))]),
    async read(from, to) {
      const samples = new Int16Array(Math.max(0, Math.min(frames, to * sampleRateHz) - from * sampleRateHz));
      for (const { number, samples: own } of await chunks(from, to)) samples.set(own, (number - from) * sampleRateHz);
      return samples;
    },
  };
};
