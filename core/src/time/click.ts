import type { PlacedSound } from '../signal/mix';

/** What a click says: the first beat of a bar, another beat, or a division of the beat. */
export type ClickKind = 'bar' | 'beat' | 'division';

/** One click, at an absolute time on the audio clock. */
export interface Click {
  timeS: number;
  kind: ClickKind;
}

/** Length of every click's sound, in seconds. */
export const CLICK_LENGTH_S = 0.03;

/** Pitch and level of each kind. Moderate levels: the player sets the loudness at the amplifier. */
const VOICES: Record<ClickKind, { hz: number; gain: number }> = {
  bar: { hz: 1760, gain: 0.5 },
  beat: { hz: 1320, gain: 0.4 },
  division: { hz: 1320, gain: 0.14 },
};

/**
 * The waveform of a click: a knock of a decaying tone and its second partial, at full slope from its first sample, so
 * that its physical onset is exact.
 */
export const clickWaveform = (kind: ClickKind, sampleRateHz: number): Float32Array => {
  const { hz, gain } = VOICES[kind];
  return Float32Array.from({ length: Math.round(CLICK_LENGTH_S * sampleRateHz) }, (_, n) => {
    const t = n / sampleRateHz;
    const fade = 1 - t / CLICK_LENGTH_S;
    const tone = Math.cos(2 * Math.PI * hz * t) + 0.4 * Math.cos(2 * Math.PI * 2.7 * hz * t);
    return (gain / 1.4) * tone * Math.exp(-t / 0.006) * fade;
  });
};

/** The sample at which a click starts: the nearest to its time. The one place where click times are rounded. */
export const clickFrame = (timeS: number, sampleRateHz: number): number => Math.round(timeS * sampleRateHz);

/** All click waveforms at a sample rate. */
export const clickWaveforms = (sampleRateHz: number): Record<ClickKind, Float32Array> => ({
  bar: clickWaveform('bar', sampleRateHz),
  beat: clickWaveform('beat', sampleRateHz),
  division: clickWaveform('division', sampleRateHz),
});

/** Clicks as sounds placed on the audio clock. */
export const placeClicks = (
  clicks: readonly Click[],
  sampleRateHz: number,
  waveforms: Record<ClickKind, Float32Array>,
): PlacedSound[] => clicks.map(({ timeS, kind }) => ({ frame: clickFrame(timeS, sampleRateHz), samples: waveforms[kind] }));
