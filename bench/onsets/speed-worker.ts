import { closeSync, openSync, readFileSync, readSync } from 'node:fs';
import { parentPort } from 'node:worker_threads';
import { createOnsetDetector } from '@isochron/core/analysis';

const BLOCK = 16_384;
const HEAD_BYTES = 44;
const RATE = 48_000;
const SCALE = 1 / 32_768;

/** The most memory that this process ever held, in MB (Linux; a resource usage would count what its parent held as well). */
const peakMb = () => Number(/VmHWM:\s+(\d+)/.exec(readFileSync('/proc/self/status', 'utf8'))?.[1]) / 1024;

/** Reads a 16-bit mono file block by block and detects as it goes, as a take is heard. */
const listen = (path: string) => {
  const from = performance.now();
  const file = openSync(path, 'r');
  const bytes = new Int16Array(BLOCK);
  const sound = new Float32Array(BLOCK);
  const detector = createOnsetDetector(RATE);
  let onsets = 0;
  for (let at = HEAD_BYTES; ; ) {
    const read = readSync(file, bytes, 0, BLOCK * 2, at);
    if (read === 0) break;
    at += read;
    const block = sound.subarray(0, read / 2);
    for (let n = 0; n < block.length; n += 1) block[n] = (bytes[n] as number) * SCALE;
    onsets += detector.push(block).length;
  }
  onsets += detector.flush().length;
  closeSync(file);
  return { ms: performance.now() - from, onsets, peakMb: peakMb() };
};

// As a worker it is asked many times; as a process of its own it tells how much memory one file takes in all.
if (parentPort) parentPort.on('message', (path: string) => parentPort?.postMessage(listen(path)));
else console.log(JSON.stringify(listen(process.argv[2] ?? '')));
