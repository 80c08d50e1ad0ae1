import type { Settings } from '@isochron/core/schema';
import { openEngine } from './engine';
import { inputOf } from './inputs/inputs';
import type { CapturedBlock } from './worklet-messages';

/** An input that is listened to before a take; nothing is kept. */
export interface InputCheck {
  close(): Promise<void>;
}

const LEVEL_EVERY_S = 0.1;

/** Opens the input of the settings and tells its level, or its single notes. Throws InputError with a sentence. */
export const openInputCheck = async (options: {
  settings: Settings;
  onLevel(peakDb: number): void;
  onNote(): void;
  onLost(message: string): void;
}): Promise<InputCheck> => {
  const { settings, onLevel, onNote, onLost } = options;
  const { port1: blocksOut, port2: blocksIn } = new MessageChannel();
  const engine = await openEngine(blocksOut, settings);
  try {
    const input = await inputOf(settings.input).open({ engine, settings, onLost, onOnset: onNote, onRelease: () => {} });
    let peak = 0;
    let seen = 0;
    blocksIn.onmessage = ({ data }: MessageEvent<CapturedBlock>) => {
      for (const value of data.samples) peak = Math.max(peak, Math.abs(value));
      seen += data.samples.length;
      if (seen < LEVEL_EVERY_S * engine.sampleRateHz) return;
      onLevel(20 * Math.log10(peak + 1e-6));
      peak = 0;
      seen = 0;
    };
    return {
      async close() {
        input.close();
        await engine.close();
      },
    };
  } catch (error) {
    await engine.close();
    throw error;
  }
};
