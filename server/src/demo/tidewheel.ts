import { beats, type Exercise, type NoteEvent, writeBeats } from '@isochron/core';

const figure = (bar: number, pitches: number[]): NoteEvent[] =>
  pitches.map((pitch, k) => ({
    at: writeBeats(beats(bar * 4).add(beats(k).div(4))),
    length: '1/4',
    pitches: [pitch],
    hand: k % 2 === 0 ? 'right' : 'left',
  }));

/** Two bars and a close from "Tidewheel", an invented study for marimba. */
export const TIDEWHEEL: Exercise = {
  id: 'tidewheel-wave',
  title: 'Tidewheel, bars 9 to 11',
  about: 'The wave figure: broken fourths that turn over themselves, hand to hand, ending on a held note.',
  meter: { count: 4, unit: 4 },
  beatUnit: '1/4',
  pickup: '0',
  bars: 3,
  goalBpm: 112,
  events: [
    ...figure(0, [57, 62, 67, 64, 69, 64, 67, 62, 59, 64, 69, 66, 71, 66, 69, 64]),
    ...figure(1, [60, 65, 70, 67, 72, 67, 70, 65, 62, 67, 72, 69, 74, 69, 72, 67]),
    { at: '8', length: '3', pitches: [62], hand: 'right' },
  ],
};
