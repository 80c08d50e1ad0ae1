import { createListener, type Listener } from '@isochron/core';
import type { CapturedBlock } from '../audio/worklet-messages';
import { type ChunkWriter, createChunkWriter } from '../recorder/chunk-writer';
import type { FromListener, ToListener } from './listener-messages';

let listener: Listener | null = null;
let writer: ChunkWriter | null = null;
let started = false;
let peak = 0;
let sinceLevel = 0;
let levelEvery = 4800;

const tell = (message: FromListener) => self.postMessage(message);

const onBlock = ({ samples, frame }: CapturedBlock) => {
  if (!listener) return;
  if (!started) {
    started = true;
    tell({ type: 'started', frame });
  }
  for (const value of samples) peak = Math.max(peak, Math.abs(value));
  sinceLevel += samples.length;
  if (sinceLevel >= levelEvery) {
    tell({ type: 'level', peakDb: 20 * Math.log10(peak + 1e-6) });
    peak = 0;
    sinceLevel = 0;
  }
  const heard = listener.push(samples, frame);
  if (heard) tell({ type: 'heard', heard });
  writer?.push(samples, frame);
};

/** What each message does. */
const handlers: { [Type in ToListener['type']]: (message: Extract<ToListener, { type: Type }>) => void } = {
  open({ sampleRateHz, takeId, records, blocks }) {
    listener = createListener(sampleRateHz);
    levelEvery = sampleRateHz / 10;
    started = false;
    writer = records ? createChunkWriter(takeId, sampleRateHz, (message) => tell({ type: 'trouble', message })) : null;
    blocks.onmessage = ({ data }: MessageEvent<CapturedBlock>) => onBlock(data);
  },
  expect: ({ expectation }) => listener?.expect(expectation),
  cancel: () => listener?.cancel(),
  tap: ({ onset }) => listener?.tap(onset),
  release: ({ pitch, timeS }) => listener?.release(pitch, timeS),
  async close() {
    listener = null;
    await writer?.close();
    tell({ type: 'closed' });
  },
};

/** Carries a message out. */
export const handle = (message: ToListener): void => (handlers[message.type] as (message: ToListener) => void)(message);
