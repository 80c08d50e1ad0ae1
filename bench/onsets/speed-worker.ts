import { closeSync, openSync, readSync } from 'node:fs';
import { parentPort } from 'node:worker_threads';
import { createOnsetDetector } from '@isochron/core';

const BLOCK = 16_384;
const HEAD_BYTES = 44;
const RATE = 48_000;

/** Reads a 16-bit mono file block by block and detects as it goes, as a take is heard. */
parentPort?.on('message', (path: string) => {
  global.gc?.();
  const idle = process.memoryUsage().rss;
  let peak = idle;
  const from = performance.now();
  const file = openSync(path, 'r');
  const bytes = new Int16Array(BLOCK);
  const detector = createOnsetDetector(RATE);
  let onsets = 0;
  for (let at = HEAD_BYTES, blocks = 0; ; blocks += 1) {
    const read = readSync(file, bytes, 0, BLOCK * 2, at);
    if (read === 0) break;
    at += read;
    const block = new Float32Array(read / 2);
    for (let n = 0; n < block.length; n += 1) block[n] = (bytes[n] as number) / 32_768;
    onsets += detector.push(block).length;
    if (blocks % 50 === 0) peak = Math.max(peak, process.memoryUsage().rss);
  }
  onsets += detector.flush().length;
  closeSync(file);
  parentPort?.postMessage({ ms: performance.now() - from, onsets, peakMb: (peak - idle) / 2 ** 20 });
});
