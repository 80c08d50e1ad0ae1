import type { PlacedSound } from '@isochron/core/analysis';
import { type Click, type ClickKind, clickWaveforms, placeClicks } from '@isochron/core/material';
import type { Settings } from '@isochron/core/schema';
import captureAddress from './capture.worklet.ts?worker&url';
import playerAddress from './player.worklet.ts?worker&url';
import type { CaptureMessage, PlayerMessage } from './worklet-messages';

/** Notes and their lengths (s) that announce a decision: rising, level or falling. */
const ANNOUNCEMENTS = {
  raise: [660, 880],
  'raise-far': [660, 880, 1100, 1320],
  hold: [660, 660],
  lower: [660, 495],
  'lower-far': [660, 495, 396, 330],
  'not-judged': [220],
  goal: [660, 880, 1320],
  problem: [495, 495],
  stop: [495],
  next: [660, 660, 880],
  done: [660, 495, 330],
  bell: [1320, 1320],
} as const;
export type Announcement = keyof typeof ANNOUNCEMENTS;

/** From this share of the tempo on a step is a large one, told by four tones instead of two (our choice). */
const FAR_STEP = 0.06;

/** What announces a decision whose tempo steps so far, as a share of what it was. */
export const announcementOf = (what: Announcement, far: number): Announcement =>
  (what === 'raise' || what === 'lower') && far >= FAR_STEP ? `${what}-far` : what;

/** So much of the click is left while something is said. */
const DUCKED = 0.35;

/** The audio side of a take: one clock for the click, the capture and the simulated instrument. */
export interface AudioEngine {
  context: AudioContext;
  /** Inputs connect here. */
  capture: AudioWorkletNode;
  sampleRateHz: number;
  nowS(): number;
  /** A guess at the way from a click's frame to its onset in the capture, in seconds. */
  guessedLatencyS(): number;
  playClicks(clicks: readonly Click[]): void;
  /** Plays sounds the way clicks are played: same path, same level. */
  play(sounds: readonly PlacedSound[]): void;
  /** A stand-in for a cable from output to input: what is played is captured again after a delay. */
  loopBack(delayS: number): void;
  forgetClicks(): void;
  announce(what: Announcement): void;
  /** Softens the click while something is said, and lets it go again. */
  duck(isDucked: boolean): void;
  /** A player of the simulated instrument's sound, heard by the capture and, softly, by the player. */
  openInstrument(): { play(sound: PlacedSound): void; forget(): void };
  /** The audio clock's time of a moment of the page's clock (`performance.now`, in ms). */
  clockTimeS(performanceMs: number): number;
  close(): Promise<void>;
}

const tone = (hz: number, sampleRateHz: number): Float32Array =>
  Float32Array.from({ length: Math.round(0.14 * sampleRateHz) }, (_, n) => {
    const t = n / sampleRateHz;
    return 0.22 * Math.sin(2 * Math.PI * hz * t) * Math.min(1, t / 0.005) * Math.exp(-t / 0.05);
  });

const post = (node: AudioWorkletNode, message: PlayerMessage) => node.port.postMessage(message);

/** How loud and of what sound the click and the cues are. */
export type SoundSettings = Pick<Settings, 'clickLevel' | 'clickSound' | 'accentDb' | 'accentHigher' | 'cueLevel'>;

/** Opens the audio. `listener` is the port of the worker that gets the captured blocks. */
export const openEngine = async (
  listener: MessagePort,
  { clickLevel, clickSound, accentDb, accentHigher, cueLevel }: SoundSettings,
): Promise<AudioEngine> => {
  const context = new AudioContext({ latencyHint: 'interactive' });
  await context.resume();
  await Promise.all([context.audioWorklet.addModule(playerAddress), context.audioWorklet.addModule(captureAddress)]);
  const sampleRateHz = context.sampleRate;
  const mono = { numberOfInputs: 0, numberOfOutputs: 1, outputChannelCount: [1] };

  const clicks = new AudioWorkletNode(context, 'sound-player', mono);
  const clickGain = new GainNode(context, { gain: clickLevel });
  clicks.connect(clickGain).connect(context.destination);
  const cues = new AudioWorkletNode(context, 'sound-player', mono);
  cues.connect(new GainNode(context, { gain: cueLevel })).connect(context.destination);

  const capture = new AudioWorkletNode(context, 'sound-capture', { numberOfInputs: 1, numberOfOutputs: 1 });
  const toCapture: CaptureMessage = { listener };
  capture.port.postMessage(toCapture, [listener]);
  // Its output stays silent; the connection keeps it running.
  capture.connect(context.destination);

  const waveforms: Record<ClickKind, Float32Array> = clickWaveforms(sampleRateHz, {
    sound: clickSound,
    accentDb,
    accentHigher,
  });
  const tones = new Map(
    [...new Set(Object.values(ANNOUNCEMENTS).flat())].map((hz) => [hz as number, tone(hz, sampleRateHz)] as const),
  );

  return {
    context,
    capture,
    sampleRateHz,
    nowS: () => context.currentTime,
    guessedLatencyS: () => context.baseLatency + (context.outputLatency || 0),
    playClicks: (list) => post(clicks, { type: 'play', sounds: placeClicks(list, sampleRateHz, waveforms) }),
    play: (sounds) => post(clicks, { type: 'play', sounds: [...sounds] }),
    loopBack(delayS) {
      clickGain.connect(new DelayNode(context, { delayTime: delayS, maxDelayTime: 1 })).connect(capture);
    },
    forgetClicks: () => post(clicks, { type: 'forget' }),
    duck: (isDucked) => clickGain.gain.setTargetAtTime(clickLevel * (isDucked ? DUCKED : 1), context.currentTime, 0.05),
    announce(what) {
      const first = Math.round((context.currentTime + 0.05) * sampleRateHz);
      const sounds = ANNOUNCEMENTS[what].map((hz, k) => ({
        frame: first + Math.round(k * 0.13 * sampleRateHz),
        samples: tones.get(hz) as Float32Array,
      }));
      post(cues, { type: 'play', sounds });
    },
    openInstrument() {
      const instrument = new AudioWorkletNode(context, 'sound-player', mono);
      instrument.connect(capture);
      instrument.connect(new GainNode(context, { gain: 0.5 })).connect(context.destination);
      return {
        play: (sound) => post(instrument, { type: 'play', sounds: [sound] }),
        // One sound is a whole repetition.
        forget: () => post(instrument, { type: 'hush' }),
      };
    },
    clockTimeS(performanceMs) {
      const { contextTime = context.currentTime, performanceTime = performance.now() } = context.getOutputTimestamp();
      // Before the first output the stamp is empty.
      if (performanceTime === 0) return context.currentTime + (performanceMs - performance.now()) / 1000;
      return contextTime + (performanceMs - performanceTime) / 1000;
    },
    close: () => context.close(),
  };
};
