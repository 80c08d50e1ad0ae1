import { fadedFrom, mixInto, type PlacedSound } from '@isochron/core/mix';
import type { PlayerMessage } from './worklet-messages';

/** Falling silent makes no sound of its own. */
const FADE_FRAMES = 512;

/** Plays sounds at exact frames of the audio clock: the click, and the simulated instrument. */
class SoundPlayer extends AudioWorkletProcessor {
  private sounds: PlacedSound[] = [];

  constructor() {
    super();
    this.port.onmessage = ({ data }: MessageEvent<PlayerMessage>) => {
      if (data.type === 'play') this.sounds.push(...data.sounds);
      else this.sounds = this.sounds.filter((sound) => sound.frame < currentFrame);
      if (data.type === 'hush') this.sounds = this.sounds.map((sound) => fadedFrom(sound, currentFrame, FADE_FRAMES));
    };
  }

  process(_inputs: Float32Array[][], outputs: Float32Array[][]): boolean {
    const block = outputs[0]?.[0];
    if (!block) return true;
    for (const sound of this.sounds) mixInto(block, currentFrame, sound);
    this.sounds = this.sounds.filter((sound) => sound.frame + sound.samples.length > currentFrame + block.length);
    return true;
  }
}

registerProcessor('sound-player', SoundPlayer);
