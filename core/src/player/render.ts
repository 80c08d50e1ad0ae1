import { beatsNumber } from '../rhythm/beats';
import { inOrder } from '../rhythm/exercise-shape';
import type { Exercise } from '../schema/exercise';
import { mixInto } from '../signal/mix';
import { type Click, clickWaveforms, placeClicks } from '../time/click';
import type { Instrument } from './instruments';
import { chance } from './random';
import type { PlayedNote } from './simulate';

/** Frequency of a MIDI note number in equal temperament at A = 440 Hz (ISO 16). */
export const pitchHz = (midi: number): number => 440 * 2 ** ((midi - 69) / 12);

/**
 * Renders played notes as sound of `lengthS` seconds. Each note begins at the sample nearest its time, at its level;
 * `noiseDb` is the room's noise and `bleed` lets a click be heard by the microphone at a gain.
 */
export const renderPlaying = (options: {
  played: readonly PlayedNote[];
  exercise: Exercise;
  tempoBpm: number;
  instrument: Instrument;
  sampleRateHz: number;
  lengthS: number;
  seed: number;
  noiseDb?: number;
  bleed?: { clicks: readonly Click[]; gain: number; delayS: number };
}): Float32Array => {
  const { played, exercise, tempoBpm, instrument, sampleRateHz, lengthS, seed, noiseDb, bleed } = options;
  const random = chance(seed);
  const sound = new Float32Array(Math.round(lengthS * sampleRateHz));
  const events = inOrder(exercise.events);
  for (const note of played) {
    const event = events[note.expected ?? 0];
    const pitches = event?.pitches.length ? event.pitches : [60];
    const gain = 10 ** (note.levelDb / 20);
    for (const pitch of pitches) {
      const wave = instrument.note({
        hz: pitchHz(pitch),
        lengthS: (beatsNumber(event?.length ?? '1/4') * 60) / tempoBpm,
        sampleRateHz,
        chance: random,
      });
      mixInto(sound, 0, { frame: Math.round(note.timeS * sampleRateHz), samples: wave, gain });
    }
  }
  if (bleed) {
    const clicks = bleed.clicks.map((click) => ({ ...click, timeS: click.timeS + bleed.delayS }));
    for (const click of placeClicks(clicks, sampleRateHz, clickWaveforms(sampleRateHz))) {
      mixInto(sound, 0, { ...click, gain: bleed.gain });
    }
  }
  if (noiseDb !== undefined) {
    const level = 10 ** (noiseDb / 20);
    for (let n = 0; n < sound.length; n += 1) sound[n] = (sound[n] as number) + level * random.normal();
  }
  return sound;
};
