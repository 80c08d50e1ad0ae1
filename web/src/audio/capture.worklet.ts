import type { CapturedBlock, CaptureMessage } from './worklet-messages';

/** Samples handed on at a time: about 10 ms. */
const BLOCK = 512;

/** Hands the captured samples on, each block with the frame of the audio clock at which it begins. */
class SoundCapture extends AudioWorkletProcessor {
  private listener: MessagePort | null = null;
  private block = new Float32Array(BLOCK);
  private filled = 0;
  private blockFrame = 0;

  constructor() {
    super();
    this.port.onmessage = ({ data }: MessageEvent<CaptureMessage>) => {
      this.listener = data.listener;
    };
  }

  private handOn(): void {
    if (this.filled === 0 || !this.listener) return;
    const samples = this.block.slice(0, this.filled);
    const captured: CapturedBlock = { type: 'block', samples, frame: this.blockFrame };
    this.listener.postMessage(captured, [samples.buffer]);
    this.filled = 0;
  }

  process(inputs: Float32Array[][]): boolean {
    const channels = inputs[0] ?? [];
    const length = channels[0]?.length ?? 128;
    // A jump of the clock: what was gathered goes out, and the listener sees the gap.
    if (this.filled > 0 && currentFrame !== this.blockFrame + this.filled) this.handOn();
    if (this.filled === 0) this.blockFrame = currentFrame;
    for (let n = 0; n < length; n += 1) {
      let sum = 0;
      for (const channel of channels) sum += channel[n] as number;
      this.block[this.filled + n] = channels.length ? sum / channels.length : 0;
    }
    this.filled += length;
    if (this.filled >= BLOCK) this.handOn();
    return true;
  }
}

registerProcessor('sound-capture', SoundCapture);
