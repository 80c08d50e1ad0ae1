import type { PlacedSound } from '@isochron/core/mix';

/** To the sound player: play these, forget what has not begun, or fall silent. */
export type PlayerMessage = { type: 'play'; sounds: PlacedSound[] } | { type: 'forget' } | { type: 'hush' };

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
