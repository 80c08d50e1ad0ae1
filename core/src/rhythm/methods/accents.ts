import { z } from 'zod';
import { beats } from '../../schema/beats';
import type { Grid, GridEvent } from '../../schema/grid';
import { isOn, type Place, placesIn } from '../metric';
import { numberField, rangeField, wordField } from './fields';
import { makeDrill } from './make-drill';
import type { Method } from './method';

const Parameters = z.object({
  on: z.enum(['beats', 'off', 'rotation', 'spot']).default('rotation'),
  /** Notes in a group, where the accent goes round. */
  size: z.number().int().min(2).max(8).default(4),
  /** The note to be accented, from 1, where it is one spot. */
  spot: z.number().int().min(1).max(20_000).default(1),
});

const accented = (grid: Grid, isAccented: (event: GridEvent, k: number) => boolean): Grid => ({
  ...grid,
  events: grid.events.map((event, k) => ({ ...event, accent: isAccented(event, k) })),
});

/** The middle of the beat, the “and”; of a beat of three its last third (common practice). */
const isOffBeat = ({ inBar, beat }: Place): boolean => {
  const share = inBar.mod(beat).div(beat);
  return share.equals('1/2') || share.equals('2/3');
};

/** Accents on the beats, between them, on one spot, or on each place of a group in turn; checked by level. */
export const ACCENTS: Method<z.infer<typeof Parameters>> = {
  id: 'accents',
  name: 'Accents',
  about: 'The weight goes to chosen notes: on an unsure one it gives it time, going round it makes every finger lead once.',
  category: 'even',
  stage: 'accents',
  parameters: Parameters,
  fields: [
    wordField('on', 'Accent', {
      beats: 'on the beats',
      off: 'on the off-beats',
      rotation: 'each place of a group in turn',
      spot: 'on one note',
    }),
    numberField('size', 'Groups of', [2, 3, 4, 5, 6, 8]),
    rangeField('spot', 'The one note', 1, 20_000),
  ],
  drills: (grid, parameters) => {
    const { on, size, spot } = parameters;
    const placeOf = placesIn(grid);
    const drill = (place: number, isAccented: (event: GridEvent, k: number) => boolean) =>
      makeDrill('accents', parameters, accented(grid, isAccented), { on, place, size });
    switch (on) {
      case 'beats':
        return [drill(0, (event) => isOn(placeOf(beats(event.at))))];
      case 'off':
        return [drill(0, (event) => isOffBeat(placeOf(beats(event.at))))];
      case 'spot':
        return [drill(spot, (_event, k) => k === Math.min(spot, grid.events.length) - 1)];
      case 'rotation':
        return Array.from({ length: Math.min(size, grid.events.length) }, (_, place) =>
          drill(place + 1, (_event, k) => k % size === place),
        );
    }
  },
};
