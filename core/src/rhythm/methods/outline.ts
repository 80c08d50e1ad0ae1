import { z } from 'zod';
import { beats, writeBeats } from '../../schema/beats';
import type { Grid, GridEvent } from '../../schema/grid';
import { isOnBeat } from '../grid-shape';
import { fillBars, lasting, plainFrame } from '../reshape/fill-bars';
import { numberField, yesNoField } from './fields';
import { makeDrill } from './make-drill';
import type { Method } from './method';

const Parameters = z.object({
  stage: z.number().int().min(0).max(3).default(0),
  /** Whether each beat is followed by a beat of rest, so that the way to it is at full tempo and there is time to look. */
  stops: z.boolean().default(false),
});

/** Chosen events, each held to the next of them. */
const held = (grid: Grid, isChosen: (event: GridEvent, k: number) => boolean): Grid => {
  const chosen = grid.events.filter(isChosen);
  const events = chosen.map((event, k) => {
    const next = chosen[k + 1];
    return next ? lasting(event, beats(next.at).sub(beats(event.at))) : event;
  });
  const first = beats((events[0] as GridEvent).at);
  return { ...grid, pickup: first.compare(0) < 0 ? writeBeats(first.neg()) : '0', events };
};

/** Every beat's notes at their tempo, and a beat of rest after each. */
const withStops = (grid: Grid): Grid => {
  const first = beats((grid.events[0] as GridEvent).at).floor();
  const events = grid.events.map((event, k): GridEvent => {
    const at = beats(event.at);
    const moved = at.add(at.floor().sub(first)).sub(first.compare(0) < 0 ? first : 0);
    const next = grid.events[k + 1];
    const room = next ? beats(next.at).sub(at) : beats(event.length);
    // What reaches into the next beat is let go at the stop.
    const end = at.floor().add(1).sub(at);
    return { ...lasting(event, room.compare(end) > 0 ? end : room), at: writeBeats(moved) };
  });
  return fillBars(plainFrame(grid), events);
};

/** The notes on the beats, then every other note, then all: the hand learns where it goes before it goes everywhere. */
export const OUTLINE: Method<z.infer<typeof Parameters>> = {
  id: 'outline',
  name: 'Outline',
  about: 'First the notes on the beats at full tempo, then every other note, then all: the long way first, the filling last.',
  category: 'learn',
  parameters: Parameters,
  fields: [
    numberField(
      'stage',
      'Stage',
      [0, 1, 2, 3],
      (n) => ['all three in turn', 'on the beats', 'every other note', 'all notes'][n] as string,
    ),
    yesNoField('stops', 'With a stop after each beat'),
  ],
  drills: (grid, { stage, stops }) => {
    const hasBeats = grid.events.some(isOnBeat);
    const stages: [number, (event: GridEvent, k: number) => boolean][] = [
      [1, (event, k) => (hasBeats ? isOnBeat(event) : k % 4 === 0)],
      [2, (_event, k) => k % 2 === 0],
      [3, () => true],
    ];
    return stages
      .filter(([number]) => stage === 0 || stage === number)
      .map(([number, isChosen]) =>
        makeDrill('outline', { stage: number, stops }, stops ? withStops(held(grid, isChosen)) : held(grid, isChosen), {
          stage: number,
        }),
      );
  },
};
