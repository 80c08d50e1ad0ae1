import { calibrate } from '@isochron/core';
import type { CapturedBlock } from '../audio/worklet-messages';
import type { FromCalibrator, ToCalibrator } from './calibration-messages';

const blocks: CapturedBlock[] = [];
let sampleRateHz = 48_000;

const tell = (message: FromCalibrator) => self.postMessage(message);

/** What was captured, as one sound from the first frame on; a gap stays silent. */
const captured = (firstFrame: number): Float32Array => {
  const last = blocks.at(-1) as CapturedBlock;
  const sound = new Float32Array(last.frame + last.samples.length - firstFrame);
  for (const { samples, frame } of blocks) sound.set(samples, frame - firstFrame);
  return sound;
};

/** What each message does. */
const handlers: { [Type in ToCalibrator['type']]: (message: Extract<ToCalibrator, { type: Type }>) => void } = {
  open(message) {
    sampleRateHz = message.sampleRateHz;
    message.blocks.onmessage = ({ data }: MessageEvent<CapturedBlock>) => {
      if (blocks.length === 0) tell({ type: 'started', frame: data.frame });
      blocks.push(data);
    };
  },
  find({ frames }) {
    const first = blocks[0]?.frame ?? 0;
    const sound = blocks.length ? captured(first) : new Float32Array(0);
    const calibration = calibrate(
      sound,
      frames.map((frame) => frame - first),
      sampleRateHz,
    );
    tell({ type: 'found', calibration });
  },
};

/** Carries a message out. */
export const handle = (message: ToCalibrator): void => (handlers[message.type] as (message: ToCalibrator) => void)(message);
