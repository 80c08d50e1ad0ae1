import { pitchesOf } from '../rhythm/grid-shape';
import type { Grid } from '../schema/grid';
import type { TempoMapDocument } from '../schema/tempo';
import { mixInto } from '../signal/mix';
import { chance } from '../stats/random';
import { type Click, clickWaveforms, placeClicks } from '../time/click';
import { eventLengthS } from '../time/repetition-plan';
import { openTempo } from '../time/tempo-map';
import type { Instrument } from './instruments';
import type { PlayedNote } from './simulate';

/** What a note without pitch is played at: middle C. */
const UNPITCHED = 60;

/** Frequency of a MIDI note number in equal temperament at A = 440 Hz (ISO 16). */
export const pitchHz = (midi: number): number => 440 * 2 ** ((midi - 69) / 12);

/**
 * Renders played notes as sound of `lengthS` seconds. Each note begins at the sample nearest its time, at its level;
 * `noiseDb` is the room's noise and `bleed` lets a click be heard by the microphone at a gain.
 */
export const renderPlaying = (options: {
  played: readonly PlayedNote[];
  grid: Grid;
  tempo: TempoMapDocument;
  instrument: Instrument;
  sampleRateHz: number;
  lengthS: number;
  seed: number;
  noiseDb?: number;
  bleed?: { clicks: readonly Click[]; gain: number; delayS: number };
}): Float32Array => {
  const { played, grid, tempo, instrument, sampleRateHz, lengthS, seed, noiseDb, bleed } = options;
  const random = chance(seed);
  const sound = new Float32Array(Math.round(lengthS * sampleRateHz));
  const map = openTempo(tempo);
  for (const note of played) {
    const event = grid.events[note.expected ?? 0];
    const pitched = event ? pitchesOf(event, grid) : [];
    const pitches = pitched.length ? pitched : [UNPITCHED];
    const gain = 10 ** (note.levelDb / 20);
    for (const pitch of pitches) {
      const wave = instrument.note({
        hz: pitchHz(pitch),
        lengthS: eventLengthS(grid, note.expected ?? 0, map),
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
