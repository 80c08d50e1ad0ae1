import { type Calibration, calibrate } from '@isochron/core/analysis';
import type { CapturedBlock } from '../audio/worklet-messages';

const blocks: CapturedBlock[] = [];
let sampleRateHz = 48_000;

/** What was captured, as one sound from the first frame on; a gap stays silent. */
const captured = (firstFrame: number): Float32Array => {
  const last = blocks.at(-1) as CapturedBlock;
  const sound = new Float32Array(last.frame + last.samples.length - firstFrame);
  for (const { samples, frame } of blocks) sound.set(samples, frame - firstFrame);
  return sound;
};

/** What the page may ask of the calibrating worker. */
export const calibrating = {
  /** Settles with the first captured frame. */
  open: (rateHz: number, port: MessagePort): Promise<number> =>
    new Promise((resolve) => {
      sampleRateHz = rateHz;
      port.onmessage = ({ data }: MessageEvent<CapturedBlock>) => {
        if (blocks.length === 0) resolve(data.frame);
        blocks.push(data);
      };
    }),
  /** Looks for the bursts that were played at these frames of the audio clock. */
  find(frames: number[]): Calibration {
    const first = blocks[0]?.frame ?? 0;
    const sound = blocks.length ? captured(first) : new Float32Array(0);
    return calibrate(
      sound,
      frames.map((frame) => frame - first),
      sampleRateHz,
    );
  },
};
