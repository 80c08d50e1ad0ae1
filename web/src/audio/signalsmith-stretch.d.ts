/** What is used of signalsmith-stretch, which ships no types. */
declare module 'signalsmith-stretch' {
  interface Change {
    /** The moment of the audio clock from which it holds; `outputTime` says the same to the node's own list. */
    output: number;
    outputTime: number;
    active?: boolean;
    /** Place in the sound, in seconds. */
    input?: number;
    rate?: number;
    loopStart?: number;
    loopEnd?: number;
  }
  interface StretchNode extends AudioWorkletNode {
    addBuffers(channels: Float32Array[]): Promise<number>;
    schedule(change: Change): Promise<unknown>;
  }
  interface Open {
    (context: BaseAudioContext, options?: AudioWorkletNodeOptions): Promise<StretchNode>;
    /** Where the module of the audio thread is fetched from. */
    moduleUrl?: string;
  }
  const open: Open;
  export default open;
}

declare module 'signalsmith-stretch?url' {
  const address: string;
  export default address;
}
