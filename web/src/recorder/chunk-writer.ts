import { keepChunk } from './safe-store';

/** Writes a recording to the browser's storage, a second at a time. */
export interface ChunkWriter {
  push(samples: Float32Array, frame: number): void;
  /** Writes what is left. */
  close(): Promise<void>;
}

const FULL =
  'The browser has no room left to keep the recording. The figures are still measured; free some disk space before the next take.';

/**
 * Makes a {@link ChunkWriter}. A gap in the frames is filled with silence, so that times in the recording stay true.
 * The first failure to store is told once; the figures do not depend on it.
 */
export const createChunkWriter = (takeId: string, sampleRateHz: number, onTrouble: (message: string) => void): ChunkWriter => {
  let chunk = new Int16Array(sampleRateHz);
  let filled = 0;
  let number = 0;
  let nextFrame: number | null = null;
  let failed = false;
  let writing: Promise<void> = Promise.resolve();

  const write = () => {
    const full = { takeId, number, sampleRateHz, samples: chunk.slice(0, filled) };
    number += 1;
    filled = 0;
    writing = writing
      .then(() => keepChunk(full))
      .catch(() => {
        if (!failed) onTrouble(FULL);
        failed = true;
      });
  };

  const put = (value: number) => {
    chunk[filled] = Math.round(Math.max(-1, Math.min(1, value)) * 32_767);
    filled += 1;
    if (filled === chunk.length) write();
  };

  return {
    push(samples, frame) {
      for (let missing = nextFrame === null ? 0 : frame - nextFrame; missing > 0; missing -= 1) put(0);
      for (const value of samples) put(value);
      nextFrame = frame + samples.length;
    },
    async close() {
      if (filled > 0) write();
      await writing;
      chunk = new Int16Array(0);
    },
  };
};
