import type { ClickSound } from '../schema/settings';
import type { PlacedSound } from '../signal/mix';

/** What a click says: the first beat of a bar, another beat, or a division of the beat. */
export type ClickKind = 'bar' | 'beat' | 'division';

/** One click, at an absolute time on the audio clock. */
export interface Click {
  timeS: number;
  kind: ClickKind;
}

/** Length of every click's sound, in seconds. */
const CLICK_LENGTH_S = 0.03;

/** One sound of the click: its partials, how fast each dies away, and its pitch on a beat. All begin at full slope. */
interface Sound {
  name: string;
  hz: number;
  /** Frequency against the first partial, and level. */
  partials: readonly (readonly [ratio: number, level: number])[];
  decayS: number;
}

/** The sounds there are. To add one: its line here and its id in schema/settings.ts. */
export const CLICK_SOUNDS: Record<ClickSound, Sound> = {
  knock: {
    name: 'knock',
    hz: 1320,
    partials: [
      [1, 1],
      [2.7, 0.4],
    ],
    decayS: 0.006,
  },
  // Above most instruments: heard through a loud one.
  tick: {
    name: 'tick, high and short',
    hz: 2900,
    partials: [
      [1, 1],
      [1.62, 0.8],
    ],
    decayS: 0.0025,
  },
  // Below a flute, beside a drum: low and dull.
  block: {
    name: 'block, low',
    hz: 620,
    partials: [
      [1, 1],
      [2.1, 0.5],
      [3.4, 0.25],
    ],
    decayS: 0.008,
  },
  glass: {
    name: 'glass, clear',
    hz: 1980,
    partials: [
      [1, 1],
      [2.32, 0.6],
      [4.25, 0.3],
    ],
    decayS: 0.011,
  },
};

/** How the click is told apart: its sound, and how the first beat of a bar stands out. */
export interface ClickVoice {
  sound: ClickSound;
  /** How much louder the first beat of a bar is, in dB. */
  accentDb: number;
  /** Whether it is higher as well. */
  accentHigher: boolean;
}

const USUAL_VOICE: ClickVoice = { sound: 'knock', accentDb: 2, accentHigher: true };

/** A beat's level; the player sets the loudness at the amplifier. */
const BEAT_GAIN = 0.4;
const DIVISION_GAIN = 0.14;
/** A fourth. */
const ACCENT_RATIO = 4 / 3;
/** No click is louder than this. */
const MAX_GAIN = 0.9;

/** The waveform of a click: decaying partials, at full slope from the first sample, so that its physical onset is exact. */
export const clickWaveform = (kind: ClickKind, sampleRateHz: number, voice = USUAL_VOICE): Float32Array => {
  const { hz, partials, decayS } = CLICK_SOUNDS[voice.sound];
  const isFirst = kind === 'bar';
  const pitch = isFirst && voice.accentHigher ? hz * ACCENT_RATIO : hz;
  const gain = kind === 'division' ? DIVISION_GAIN : isFirst ? BEAT_GAIN * 10 ** (voice.accentDb / 20) : BEAT_GAIN;
  const whole = partials.reduce((sum, [, level]) => sum + level, 0);
  return Float32Array.from({ length: Math.round(CLICK_LENGTH_S * sampleRateHz) }, (_, n) => {
    const t = n / sampleRateHz;
    const tone = partials.reduce((sum, [ratio, level]) => sum + level * Math.cos(2 * Math.PI * ratio * pitch * t), 0);
    return (Math.min(MAX_GAIN, gain) / whole) * tone * Math.exp(-t / decayS) * (1 - t / CLICK_LENGTH_S);
  });
};

/** The sample at which a click starts: the nearest to its time. The one place where click times are rounded. */
export const clickFrame = (timeS: number, sampleRateHz: number): number => Math.round(timeS * sampleRateHz);

/** All click waveforms of a voice at a sample rate. */
export const clickWaveforms = (sampleRateHz: number, voice = USUAL_VOICE): Record<ClickKind, Float32Array> => ({
  bar: clickWaveform('bar', sampleRateHz, voice),
  beat: clickWaveform('beat', sampleRateHz, voice),
  division: clickWaveform('division', sampleRateHz, voice),
});

/** Clicks as sounds placed on the audio clock. */
export const placeClicks = (
  clicks: readonly Click[],
  sampleRateHz: number,
  waveforms: Record<ClickKind, Float32Array>,
): PlacedSound[] => clicks.map(({ timeS, kind }) => ({ frame: clickFrame(timeS, sampleRateHz), samples: waveforms[kind] }));
