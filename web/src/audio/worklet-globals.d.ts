/** What exists inside an AudioWorklet. */
declare class AudioWorkletProcessor {
  readonly port: MessagePort;
  constructor();
}
declare function registerProcessor(name: string, processor: typeof AudioWorkletProcessor): void;
declare const currentFrame: number;
