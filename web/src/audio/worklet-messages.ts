import type { PlacedSound } from '@isochron/core/mix';

/** To the sound player: play these, or forget what has not begun. */
export type PlayerMessage = { type: 'play'; sounds: PlacedSound[] } | { type: 'forget' };

/** To the capture: where its blocks go. */
export interface CaptureMessage {
  listener: MessagePort;
}

/** From the capture to the listening worker, past the main thread. */
export interface CapturedBlock {
  type: 'block';
  samples: Float32Array<ArrayBuffer>;
  frame: number;
}
