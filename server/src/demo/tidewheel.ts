import { passageOf, pitch } from '@isochron/core/material';
import type { Marks, Passage } from '@isochron/core/schema';

const hand = (k: number): Marks => ({ hand: k % 2 === 0 ? 'right' : 'left' });

const figure = (bar: number, pitches: string) =>
  pitches.split(' ').map((name, k) => ({
    at: k % 4 === 0 ? `${4 * bar + k / 4}` : `${16 * bar + k}/4`,
    length: '1/4',
    pitch: pitch(name),
    staff: 1 as const,
    voice: 1,
    marks: hand(k),
  }));

/** Two bars and a close from "Tidewheel", an invented study for marimba. */
export const TIDEWHEEL: Passage = {
  ...passageOf({
    id: 'tidewheel-wave',
    title: 'Tidewheel, bars 9 to 11',
    about: 'The wave figure: broken fourths that turn over themselves, hand to hand, ending on a held note.',
    bars: 3,
    goalBpm: 112,
    variant: 'hand to hand, right first',
    notes: [
      ...figure(0, 'A3 D4 G4 E4 A4 E4 G4 D4 B3 E4 A4 F#4 B4 F#4 A4 E4'),
      ...figure(1, 'C4 F4 Bb4 G4 C5 G4 Bb4 F4 D4 G4 C5 A4 D5 A4 C5 G4'),
      { at: '8', length: '3', pitch: pitch('D4'), staff: 1, voice: 1, marks: hand(0) },
    ],
  }),
  firstBarNumber: 9,
};
