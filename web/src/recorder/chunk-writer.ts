import { shortOf } from '@isochron/core';
import { notKeptWords } from './not-kept';
import { type Chunk, keepChunk, keepGap } from './safe-store';

/** Writes a recording to the browser's storage, a second at a time. */
export interface ChunkWriter {
  push(samples: Float32Array, frame: number): void;
  /** Notes that the input lost sound between two frames of the audio clock, though the frames were counted on. */
  lost(fromFrame: number, toFrame: number): void;
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

  return {
    push(samples, frame) {
      startFrame ??= frame;
      const at = Math.max(next, frame - startFrame);
      if (at > next) noteGap(next, at);
      for (let n = 0; n < samples.length; n += 1) {
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
      next = at + samples.length;
    },
    lost(fromFrame, toFrame) {
      if (startFrame !== null) noteGap(Math.max(0, fromFrame - startFrame), Math.max(0, toFrame - startFrame));
    },
    written: () => writing,
    async close() {
      write();
      await writing;
      return held;
    },
  };
};
