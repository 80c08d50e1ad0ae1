import {
  type BarsBehind,
  createListener,
  type Expectation,
  type HeardRepetition,
  type Listener,
} from '@isochron/core/analysis';
import type { Onset } from '@isochron/core/schema';
import type { CapturedBlock } from '../audio/worklet-messages';
import { type ChunkWriter, createChunkWriter } from '../recorder/chunk-writer';
import type { Chunk } from '../recorder/safe-store';

/** What the listening worker tells. */
export interface ListenerEvents {
  /** The first captured frame. */
  onStarted(frame: number): void;
  onHeard(heard: HeardRepetition): void;
  /** Nothing was played of a repetition until it would be counted on. */
  onNotBegun(repetition: number): void;
  /** What was heard of a long repetition's bars that are over. */
  onBehind(behind: BarsBehind): void;
  /** The loudest sample of the last tenth of a second, in dBFS. */
  onLevel(peakDb: number): void;
  onTrouble(message: string): void;
}

let listener: Listener | null = null;
let writer: ChunkWriter | null = null;
let started = false;
let peak = 0;
let sinceLevel = 0;
let levelEvery = 4800;
let sampleRate = 48_000;

const onBlock = ({ samples, frame }: CapturedBlock, tell: ListenerEvents) => {
  if (!listener) return;
  if (!started) {
    started = true;
    tell.onStarted(frame);
  }
  for (const value of samples) peak = Math.max(peak, Math.abs(value));
  sinceLevel += samples.length;
  if (sinceLevel >= levelEvery) {
    tell.onLevel(20 * Math.log10(peak + 1e-6));
    peak = 0;
    sinceLevel = 0;
  }
  const heard = listener.push(samples, frame);
  if (heard) tell.onHeard(heard);
  const late = listener.notBegun();
  if (late !== null) tell.onNotBegun(late);
  const behind = listener.behind();
  if (behind) tell.onBehind(behind);
  writer?.push(samples, frame);
};

/** What the page may ask of the listening worker. */
export const listening = {
  /** Opens: blocks come by `blocks`, what is heard goes to `tell`; a take to be kept has an id. */
  open(options: { sampleRateHz: number; keepAs: string | null }, blocks: MessagePort, tell: ListenerEvents) {
    const { sampleRateHz, keepAs } = options;
    listener = createListener(sampleRateHz);
    levelEvery = sampleRateHz / 10;
    sampleRate = sampleRateHz;
    started = false;
    writer = keepAs ? createChunkWriter(keepAs, sampleRateHz, (message) => tell.onTrouble(message)) : null;
    blocks.onmessage = ({ data }: MessageEvent<CapturedBlock>) => onBlock(data, tell);
  },
  expect: (expectation: Expectation) => listener?.expect(expectation),
  conclude: (byHand: boolean): HeardRepetition | null => listener?.conclude(byHand) ?? null,
  cancel: () => listener?.cancel(),
  tap: (onset: Onset) => listener?.tap(onset),
  release: (pitch: number, timeS: number) => listener?.release(pitch, timeS),
  /** The input lost sound between two moments of the audio clock, in seconds. */
  lost(fromS: number, toS: number) {
    listener?.lost();
    writer?.lost(Math.round(fromS * sampleRate), Math.round(toS * sampleRate));
  },
  /** From a moment of the audio clock on, in seconds, nothing is written, or it is again. */
  pause: (atS: number) => writer?.pause(Math.round(atS * sampleRate)),
  resume: (atS: number) => writer?.resume(Math.round(atS * sampleRate)),
  /** Settles when what is left is stored; gives back what the browser did not take. */
  async close(): Promise<Chunk[]> {
    listener = null;
    return (await writer?.close()) ?? [];
  },
};
