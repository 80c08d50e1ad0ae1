import type Fraction from 'fraction.js';
import { z } from 'zod';
import { beats, writeBeats } from '../../schema/beats';
import type { Grid, GridEvent } from '../../schema/grid';
import { withLine } from '../line';
import { firstBeat, isOn, type Place, placesIn } from '../metric';
import { fillBars, lasting, plainFrame } from '../reshape/fill-bars';
import { usualStep } from '../reshape/runs';
import { isByThrees } from './cells';
import { numberField, yesNoField } from './fields';
import { makeDrill } from './make-drill';
import type { Method } from './method';

const Parameters = z.object({
  stage: z.number().int().min(0).max(3).default(0),
  /** Whether each beat is followed by a beat of rest, so that the way to it is at full tempo and there is time to look. */
  stops: z.boolean().default(false),
});

/** Chosen events of the leading voice, each held to the next of them; other voices stay as they are written. */
const held = (grid: Grid, isChosen: (event: GridEvent, isLast: boolean) => boolean): Grid => {
  const whole = withLine(grid, (line) => {
    const chosen = line.filter((event, k) => isChosen(event, k === line.length - 1));
    return chosen.map((event, k) => {
      const next = chosen[k + 1];
      return next ? lasting(event, beats(next.at).sub(beats(event.at))) : event;
    });
  });
  const first = beats((whole.events[0] as GridEvent).at);
  return { ...whole, pickup: first.compare(0) < 0 ? writeBeats(first.neg()) : '0' };
};

/** Every beat's notes at their tempo, and a beat of rest after each. */
const withStops = (grid: Grid): Grid => {
  const beat = firstBeat(grid);
  const beatOf = (at: Fraction) => at.div(beat).floor().mul(beat);
  const first = beatOf(beats((grid.events[0] as GridEvent).at));
  const events = grid.events.map((event, k): GridEvent => {
    const at = beats(event.at);
    const moved = at.add(beatOf(at).sub(first)).sub(first.compare(0) < 0 ? first : 0);
    const next = grid.events[k + 1];
    const room = next ? beats(next.at).sub(at) : beats(event.length);
    // What reaches into the next beat is let go at the stop.
    const end = beatOf(at).add(beat).sub(at);
    return { ...lasting(event, room.compare(end) > 0 ? end : room), at: writeBeats(moved) };
  });
  return fillBars(plainFrame(grid), events);
};

/** What the first stage is called where the notes are the beats themselves. */
const DOWNBEATS = 4;

/** The notes on the beats, then every other note, then all: the hand learns where it goes before it goes everywhere. */
export const OUTLINE: Method<z.infer<typeof Parameters>> = {
  id: 'outline',
  name: 'Outline',
  about: 'First the notes on the beats at full tempo, then every other note, then all: the long way first, the filling last.',
  category: 'learn',
  stage: 'notes',
  keepsOthers: true,
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
    const placeOf = placesIn(grid);
    /** Notes so far apart from their bar line, and the one that it ends on. */
    const every = (length: (place: Place) => Fraction) => (event: GridEvent, isLast: boolean) => {
      const place = placeOf(beats(event.at));
      return isLast || isOn(place, length(place));
    };
    const step = beats(usualStep(grid));
    const isSlow = ({ beat }: Place) => step.compare(beat) >= 0;
    const stages: [number, (event: GridEvent, isLast: boolean) => boolean][] = [
      [1, every((place) => (isSlow(place) ? place.bar : place.beat))],
      [2, every(() => step.mul(2))],
      [3, () => true],
    ];
    // By threes there is no every other note that keeps to the beat; where it is on the beats, it is there already.
    const seen = new Set<string>();
    const made = stages.flatMap(([number, isChosen]) => {
      const chosen = held(grid, isChosen);
      const key = chosen.events.map(({ at, notes }) => `${at} ${notes.length}`).join();
      const place = placeOf(beats(0));
      const isAcross = number === 2 && !isSlow(place) && isByThrees(step, place.beat);
      if (seen.has(key) || isAcross) return [];
      seen.add(key);
      return [[number, chosen] as const];
    });
    const wanted = made.filter(([number]) => stage === 0 || stage === number);
    return (wanted.length > 0 ? wanted : made.slice(0, 1)).map(([number, chosen]) =>
      makeDrill('outline', { stage: number, stops }, stops ? withStops(chosen) : chosen, {
        stage: number === 1 && isSlow(placeOf(beats(0))) ? DOWNBEATS : number,
      }),
    );
  },
};
