// Served by the server itself: the package would make an address of its own, which the content policy refuses.
import moduleAddress from 'signalsmith-stretch?url';
import type { Playback } from '@isochron/core/material';
import SignalsmithStretch from 'signalsmith-stretch';

SignalsmithStretch.moduleUrl = moduleAddress;

/** A recording that sounds slower or faster than it is, at its own pitch, on the audio clock to the sample. */
export interface Stretcher {
  play(playback: Playback, untilS?: number): void;
  stop(): void;
  /** How loud, 0…1. */
  setLevel(level: number): void;
}

/** A change of level is as quick as the ear takes it for smooth. */
const LEVEL_S = 0.03;

/** Opens a recording for playing in an audio context, at a level of 0…1. At its own speed it sounds as it is, untouched. */
export const openStretcher = async (context: AudioContext, sound: AudioBuffer, level: number): Promise<Stretcher> => {
  const channels = Math.min(2, sound.numberOfChannels);
  const out = new GainNode(context, { gain: level });
  out.connect(context.destination);
  const node = await SignalsmithStretch(context, { numberOfInputs: 0, numberOfOutputs: 1, outputChannelCount: [channels] });
  node.connect(out);
  await node.addBuffers(Array.from({ length: channels }, (_, channel) => sound.getChannelData(channel)));
  const at = (timeS: number) => ({ output: timeS, outputTime: timeS });
  let plain: AudioBufferSourceNode | null = null;
  const stop = () => {
    plain?.stop();
    plain = null;
    void node.schedule({ ...at(context.currentTime), active: false });
  };
  return {
    stop,
    setLevel: (next) => void out.gain.setTargetAtTime(next, context.currentTime, LEVEL_S),
    play({ atS, fromS, rate, loop }, untilS) {
      // What was planned before is forgotten with what comes after it.
      stop();
      const loops = { loopStart: loop?.fromS ?? 0, loopEnd: loop?.toS ?? 0 };
      if (rate === 1) {
        plain = new AudioBufferSourceNode(context, { buffer: sound, loop: loop !== null, ...loops });
        plain.connect(out);
        plain.start(atS, fromS);
        if (untilS !== undefined) plain.stop(untilS);
        return;
      }
      void node.schedule({ ...at(atS), input: fromS, rate, active: true, ...loops });
      if (untilS !== undefined) void node.schedule({ ...at(untilS), active: false });
    },
  };
};
