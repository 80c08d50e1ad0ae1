import { shortOf } from '@isochron/core/material';
import { notKeptWords } from './not-kept';
import { type Chunk, keepChunk, keepGap } from './safe-store';

/** Writes a recording to the browser's storage, a second at a time. */
export interface ChunkWriter {
  push(samples: Float32Array, frame: number): void;
  /** Notes that the input lost sound between two frames of the audio clock, though the frames were counted on. */
  lost(fromFrame: number, toFrame: number): void;
  /** From a frame of the audio clock on nothing is written; what comes until {@link resume} is left out, and no gap. */
  pause(fromFrame: number): void;
  resume(toFrame: number): void;
  /** Settles when what was pushed so far is with the browser, so that who reads a long file does not run ahead. */
  written(): Promise<void>;
  /** Writes what is left; gives back what the browser did not take. */
  close(): Promise<Chunk[]>;
}

/**
 * Makes a {@link ChunkWriter}. Every sample stands at its own time: frames that never came are silence, and marked. The first
 * failure to store is told once; what the browser does not take is held in memory.
 */
export const createChunkWriter = (takeId: string, sampleRateHz: number, onTrouble: (message: string) => void): ChunkWriter => {
  let chunk = new Int16Array(sampleRateHz);
  /** The number of the chunk that is being filled, and how far it is. */
  let number = 0;
  let filled = 0;
  let startFrame: number | null = null;
  let next = 0;
  const held: Chunk[] = [];
  let writing: Promise<void> = Promise.resolve();

  /** Stretches of the audio clock that are left out, in order; the last one may be open. */
  const pauses: { from: number; to: number }[] = [];

  /** Where a frame of the audio clock stands in the recording. */
  const placeOf = (frame: number): number =>
    pauses.reduce((at, { from, to }) => at - Math.max(0, Math.min(frame, to) - from), frame - (startFrame ?? frame));

  /** The parts of a block that are not left out, as addresses within it. */
  const keptOf = (length: number, frame: number): [number, number][] => {
    let kept: [number, number][] = [[0, length]];
    for (const { from, to } of pauses)
      kept = kept.flatMap(([a, b]): [number, number][] => [
        [a, Math.min(b, from - frame)],
        [Math.max(a, to - frame), b],
      ]);
    return kept.filter(([a, b]) => a < b);
  };

  const write = () => {
    if (filled === 0) return;
    const full: Chunk = { takeId, number, sampleRateHz, samples: chunk.slice(0, filled) };
    chunk = new Int16Array(sampleRateHz);
    filled = 0;
    writing = writing
      .then(() => keepChunk(full))
      .catch(() => {
        if (held.length === 0) onTrouble(notKeptWords('recording'));
        held.push(full);
      });
  };

  const noteGap = (from: number, to: number) => {
    // A mark that is not kept costs nothing but itself: the silence stands where it stands.
    writing = writing.then(() => keepGap({ takeId, fromS: from / sampleRateHz, toS: to / sampleRateHz })).catch(() => {});
  };

  const put = (samples: Float32Array, frame: number) => {
    const at = placeOf(frame);
    if (at > next) noteGap(next, at);
    // What is there already stays: a pause that was heard of late has let some of it in.
    for (let n = Math.max(0, next - at); n < samples.length; n += 1) {
      const second = Math.floor((at + n) / sampleRateHz);
      if (second !== number) {
        // A second that ends in a gap is a whole one all the same.
        if (filled > 0) filled = sampleRateHz;
        write();
        number = second;
      }
      const within = at + n - second * sampleRateHz;
      chunk[within] = shortOf(samples[n] as number);
      filled = within + 1;
    }
    next = Math.max(next, at + samples.length);
  };

  return {
    push(samples, frame) {
      startFrame ??= frame;
      for (const [from, to] of keptOf(samples.length, frame)) put(samples.subarray(from, to), frame + from);
    },
    lost(fromFrame, toFrame) {
      if (startFrame === null) return;
      const [from, to] = [Math.max(0, placeOf(fromFrame)), Math.max(0, placeOf(toFrame))];
      if (from < to) noteGap(from, to);
    },
    pause(fromFrame) {
      if (pauses.at(-1)?.to !== Number.POSITIVE_INFINITY) pauses.push({ from: fromFrame, to: Number.POSITIVE_INFINITY });
    },
    resume(toFrame) {
      const last = pauses.at(-1);
      if (last?.to === Number.POSITIVE_INFINITY) last.to = Math.max(last.from, toFrame);
    },
    written: () => writing,
    async close() {
      write();
      await writing;
      return held;
    },
  };
};
