/**
 * Speed and memory of onset detection, side by side with aubioonset: `npm run bench:speed`.
 * Needs Debian's aubio-tools, fluidsynth and fluid-soundfont-gm. Each program reads the same 60 s WAV file at 48 kHz; ours in
 * a worker thread that has already run once, aubioonset as its own process, in turns.
 */
import { execFileSync } from 'node:child_process';
import { mkdirSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { Worker } from 'node:worker_threads';
import { median } from '@isochron/core/analysis';
import { writeWav } from '@isochron/core/material';
import { bundle, bundled } from '../scripts/bundle.mjs';
import { CONDITIONS, type Condition, makeRecording } from './onsets/corpus';
import { SAMPLED, type SampledInstrument } from './onsets/instruments';
import { RATE, sampledNotes } from './onsets/notes';

const FOLDER = join(tmpdir(), 'isochron-onset-bench');
const ROUNDS = 9;

/** Recordings of an instrument one after the other, `seconds` long. */
const longRecording = (seconds: number): Float32Array => {
  const piano = SAMPLED[0] as SampledInstrument;
  const notes = sampledNotes(piano, 'tuned', FOLDER);
  const whole = new Float32Array(seconds * RATE);
  for (let at = 0, seed = 1; at < whole.length; seed += 1) {
    const { sound } = makeRecording(piano, notes, CONDITIONS[0] as Condition, seed);
    whole.set(sound.subarray(0, whole.length - at), at);
    at += sound.length;
  }
  return whole;
};

interface Measured {
  ms: number;
  onsets: number;
  peakMb: number;
}

const worker = new Worker(new URL('./onsets/speed-entry.mjs', import.meta.url));
const ours = (file: string): Promise<Measured> =>
  new Promise((resolve) => {
    worker.once('message', resolve);
    worker.postMessage(file);
  });

const aubio = (file: string, options: readonly string[]): number => {
  const from = performance.now();
  execFileSync('aubioonset', ['-i', file, ...options], { stdio: 'ignore' });
  return performance.now() - from;
};

/** The bundled command line, its start and its end included. */
const commandLine = (file: string): number => {
  const from = performance.now();
  execFileSync(process.execPath, [bundled('cli', 'isochron'), 'onsets', file], { stdio: 'ignore' });
  return performance.now() - from;
};

const AUBIO: Record<string, readonly string[]> = {
  'aubioonset, as it comes (hfc, 512/256)': [],
  'aubioonset, best of those tried (specflux 0.3, 1024/128)': ['-O', 'specflux', '-t', '0.3', '-B', '1024', '-H', '128'],
};

mkdirSync(FOLDER, { recursive: true });
const minute = join(FOLDER, 'minute.wav');
const tenMinutes = join(FOLDER, 'ten-minutes.wav');
writeFileSync(minute, writeWav(longRecording(60), RATE));
writeFileSync(tenMinutes, writeWav(longRecording(600), RATE));

await ours(minute);
const own: number[] = [];
const others = new Map(Object.keys(AUBIO).map((name) => [name, [] as number[]]));
for (let round = 0; round < ROUNDS; round += 1) {
  own.push((await ours(minute)).ms);
  for (const [name, options] of Object.entries(AUBIO)) others.get(name)?.push(aubio(minute, options));
}
const whole: number[] = [];
const ratios: number[] = [];
bundle('cli');
for (let round = 0; round <= 2 * ROUNDS; round += 1) {
  const ms = commandLine(minute);
  const theirs = aubio(minute, []);
  // The first of each fills the caches.
  if (round === 0) continue;
  whole.push(ms);
  ratios.push(ms / theirs);
}
console.log(`| 60 s at 48 kHz, median of ${ROUNDS} | ms | ours / theirs |\n|---|---|---|`);
console.log(`| isochron, one worker | ${median(own).toFixed(0)} | |`);
for (const [name, times] of others)
  console.log(`| ${name} | ${median(times).toFixed(0)} | ${(median(own) / median(times)).toFixed(2)} |`);
console.log(
  `| isochron onsets, the whole process; ratio to aubioonset as it comes, pair by pair | ${median(whole).toFixed(0)} | ${median(ratios).toFixed(2)} |`,
);
await worker.terminate();
const alone = fileURLToPath(new URL('./onsets/speed-worker.ts', import.meta.url));
const long = JSON.parse(
  execFileSync(process.execPath, ['--import', 'tsx', alone, tenMinutes], { encoding: 'utf8' }),
) as Measured;
console.log(
  `\nTen minutes in a process of its own: ${long.ms.toFixed(0)} ms, ${long.onsets} onsets, peak memory of the whole process ${long.peakMb.toFixed(0)} MB`,
);
