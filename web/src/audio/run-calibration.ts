import { CALIBRATION, type Calibration, calibrationBurst } from '@isochron/core/analysis';
import type { Settings } from '@isochron/core/schema';
import { transfer } from 'comlink';
import { openCalibrating } from '../workers/open-worker';
import { inputName, outputName } from './devices';
import { openEngine } from './engine';
import { openMicrophone } from './inputs/microphone';

/** How the sound gets back in: through a real microphone, or through the stand-in that ships with the app. */
export type LoopbackKind = 'microphone' | 'virtual';

/** What a calibration came to, and for which devices it holds. */
export interface CalibrationOutcome {
  calibration: Calibration;
  input: string;
  output: string;
}

/** The delay of the virtual loopback, as of a middling sound card. */
const VIRTUAL_DELAY_S = 0.037;
const VIRTUAL_NAME = 'virtual loopback';
const NO_SOUND_MS = 4000;

const wait = (ms: number, signal: AbortSignal): Promise<void> =>
  new Promise((resolve, reject) => {
    const timer = setTimeout(resolve, ms);
    signal.addEventListener('abort', () => {
      clearTimeout(timer);
      reject(new DOMException('The calibration was stopped.', 'AbortError'));
    });
  });

/**
 * Plays a series of bursts, captures them and finds how long they were on their way. `onProgress` is told the share that is
 * done, 0…1. Throws InputError where there is no microphone, and an AbortError where `signal` stops it.
 */
export const runCalibration = async (options: {
  kind: LoopbackKind;
  settings: Settings;
  signal: AbortSignal;
  onProgress(share: number): void;
}): Promise<CalibrationOutcome> => {
  const { kind, settings, signal, onProgress } = options;
  const stream = kind === 'microphone' ? await openMicrophone(settings.microphoneId) : null;
  const { port1: blocksOut, port2: blocksIn } = new MessageChannel();
  const worker = openCalibrating();
  const engine = await openEngine(blocksOut, { ...settings, clickLevel: Math.max(0.3, settings.clickLevel) });
  try {
    if (stream) engine.context.createMediaStreamSource(stream).connect(engine.capture);
    else engine.loopBack(VIRTUAL_DELAY_S);
    const started = worker.ask.open(engine.sampleRateHz, transfer(blocksIn, [blocksIn]));
    await Promise.race([started, worker.broken, wait(NO_SOUND_MS, signal)]);
    const burst = calibrationBurst(engine.sampleRateHz);
    const firstS = engine.nowS() + CALIBRATION.firstS;
    const frames = Array.from({ length: CALIBRATION.bursts }, (_, k) =>
      Math.round((firstS + k * CALIBRATION.everyS) * engine.sampleRateHz),
    );
    engine.play(frames.map((frame) => ({ frame, samples: burst })));
    for (let k = 0; k <= CALIBRATION.bursts; k += 1) {
      await wait(CALIBRATION.everyS * 1000, signal);
      onProgress((k + 1) / (CALIBRATION.bursts + 1));
    }
    await wait(CALIBRATION.firstS * 1000, signal);
    const calibration = await Promise.race([worker.ask.find(frames), worker.broken]);
    return { calibration, input: stream ? inputName(stream) : VIRTUAL_NAME, output: await outputName() };
  } finally {
    for (const track of stream?.getTracks() ?? []) track.stop();
    await engine.close();
    worker.end();
  }
};
