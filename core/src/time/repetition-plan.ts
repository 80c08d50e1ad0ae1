import { min } from 'd3-array';
import type Fraction from 'fraction.js';
import { exactPositionsOf } from '../rhythm/grid-shape';
import { type Swinging, soundingBeat } from '../rhythm/swing';
import { beats } from '../schema/beats';
import { barStarts } from '../schema/frame';
import type { Drill, Grid } from '../schema/grid';
import type { TempoMapDocument } from '../schema/tempo';
import type { Click } from './click';
import { type ClickedBar, clickedPositions, clickKindAt, isSilentBar } from './click-plan';
import { openTempo, type TempoMap } from './tempo-map';

/** One note as it should sound. */
export interface ExpectedNote {
  index: number;
  /** Time of the gridline, on the same clock as the plan. */
  timeS: number;
  /** Position from the first downbeat, in beats. */
  beat: number;
  /** Notated distance to the next note (for the last one: from the note before), in seconds. */
  intervalS: number;
  accent: boolean;
  /** How far the gridline itself may lie off, where someone played the beats: a standard deviation, in ms. */
  unsteadinessMs?: number;
}

/** Everything that a repetition will be: when it is counted in, clicked and played. Times share one clock. */
export interface RepetitionPlan {
  tempo: TempoMapDocument;
  countInStartS: number;
  /** The first downbeat, beat 0. */
  downbeatS: number;
  /** End of the last bar. */
  endS: number;
  clicks: Click[];
  notes: ExpectedNote[];
}

/** The beat of a plan that sounds at a time, from its first downbeat; negative while it is counted in. */
export const beatAt = ({ tempo, downbeatS }: Pick<RepetitionPlan, 'tempo' | 'downbeatS'>, timeS: number): number =>
  openTempo(tempo).beatOf(timeS - downbeatS);

/** Count-in divisions closer together than this blur into a buzz; they are then counted in twice their value. */
const SHORTEST_DIVISION_S = 0.12;

/**
 * How many clicks to a beat the count-in has: as many as the first note's value divides it into, halved while they
 * would come faster than one can count.
 */
export const countInDivisions = ({ events }: Pick<Grid, 'events'>, tempoBpm: number): number => {
  const [first] = events;
  if (!first) return 1;
  const perBeat = beats(first.length).inverse().round().valueOf();
  let divisions = perBeat >= 2 && perBeat <= 8 ? perBeat : 1;
  while (divisions > 1 && 60 / tempoBpm / divisions < SHORTEST_DIVISION_S) {
    divisions = divisions % 2 === 0 ? divisions / 2 : 1;
  }
  return divisions;
};

/** The expected notes of a grid at a tempo, the first downbeat at `downbeatS`, in order of time; swung where the grid is. */
export const expectedNotes = (grid: Swinging, tempo: TempoMapDocument, downbeatS: number): ExpectedNote[] => {
  const map = openTempo(tempo);
  const positions = exactPositionsOf(grid).map(soundingBeat(grid));
  const times = positions.map((beat) => map.timeOf(beat));
  return grid.events.map((event, index) => {
    const beat = positions[index] as number;
    const timeS = times[index] as number;
    const next = times[index + 1];
    const before = times[index - 1];
    const alone = map.timeOf(beat + 1) - timeS;
    return {
      index,
      timeS: downbeatS + timeS,
      beat,
      intervalS: next !== undefined ? next - timeS : before !== undefined ? timeS - before : alone,
      accent: event.accent,
      ...(tempo.kind === 'beats' && tempo.unsteadinessMs > 0 ? { unsteadinessMs: tempo.unsteadinessMs } : {}),
    };
  });
};

/** The clicks of the count-in: whole bars before the first downbeat, at the tempo of the first downbeat. */
const countInClicks = (
  grid: Grid,
  barBeats: Fraction,
  bars: number,
  map: TempoMap,
): { beat: Fraction; kind: Click['kind'] }[] => {
  const divisions = countInDivisions(grid, map.tempoAt(0));
  const pickup = beats(grid.pickup);
  const count = barBeats.mul(bars);
  return Array.from({ length: count.mul(divisions).ceil().valueOf() }, (_, tick) => tick).flatMap((tick) => {
    const beat = beats(tick).div(divisions).sub(count);
    const onBeat = tick % divisions === 0;
    // Where the pickup begins the player is the one who divides the beat.
    if (!onBeat && pickup.gt(0) && beat.gte(pickup.neg())) return [];
    const opensBar = beat.mod(barBeats).equals(0);
    return [{ beat, kind: !onBeat ? 'division' : opensBar ? 'bar' : 'beat' }];
  });
};

/** The unit of the meter that holds at a place, in beats. */
const unitBeatsAt = ({ meters, beatUnit }: Grid, at: Fraction): Fraction => {
  const meter = meters.findLast((one) => at.gte(beats(one.at))) ?? meters[0];
  return meter ? beats(1).div(meter.unit).div(beats(beatUnit)) : beats(1);
};

/**
 * Plans one repetition of a drill: bars of count-in from `startS`, clicked in the value of the first note, then the grid under
 * the drill's click plan. A pickup sounds inside the last bar of the count-in. Before the first downbeat the tempo map goes on
 * level at the tempo of that downbeat.
 */
export const planRepetition = (options: { drill: Drill; tempo: TempoMapDocument; startS: number }): RepetitionPlan => {
  const { drill, tempo, startS } = options;
  const { grid, click } = drill;
  const map = openTempo(tempo);
  const sounding = soundingBeat(grid);
  const lines = barStarts(grid);
  const firstBar = lines[1] as Fraction;
  const beatS = 60 / map.tempoAt(0);
  const downbeatS = startS + click.countInBars * firstBar.valueOf() * beatS;
  const counted = countInClicks(grid, firstBar, click.countInBars, map).map(({ beat, kind }) => ({
    timeS: downbeatS + sounding(beat) * beatS,
    kind,
  }));
  const clickedBar = (line: Fraction, bar: number): ClickedBar => {
    const next = lines[bar + 1] as Fraction;
    return {
      bar,
      beats: next.sub(line),
      unitBeats: unitBeatsAt(grid, line),
      notes: () =>
        exactPositionsOf(grid)
          .filter((at) => at.gte(line) && at.lt(next))
          .map((at) => at.sub(line)),
    };
  };
  const played = lines.slice(0, -1).flatMap((line, bar) =>
    isSilentBar(click, bar)
      ? []
      : clickedPositions(click, clickedBar(line, bar)).map(
          (inBar): Click => ({
            timeS: downbeatS + map.timeOf(sounding(line.add(inBar))),
            kind: clickKindAt(click, inBar),
          }),
        ),
  );
  return {
    tempo,
    countInStartS: startS,
    downbeatS,
    endS: downbeatS + map.timeOf((lines.at(-1) as Fraction).valueOf()),
    clicks: [...counted, ...played],
    notes: expectedNotes(grid, tempo, downbeatS),
  };
};

/** Seconds of count-in before the first downbeat. */
export const countInS = ({ grid, click }: Drill, tempo: TempoMapDocument): number =>
  (click.countInBars * (barStarts(grid)[1] as Fraction).valueOf() * 60) / openTempo(tempo).tempoAt(0);

/** Whether the player hears nothing that gives the time while playing. */
export const isWithoutClick = ({ click, playAlong }: Drill): boolean => click.kind === 'none' && !playAlong;

/** The shortest time between successive notes of a plan, in ms: the strictest place. */
export const shortestIntervalMs = (notes: readonly ExpectedNote[]): number =>
  1000 * (min(notes, (note) => note.intervalS) ?? Number.POSITIVE_INFINITY);

/** Short notes sound for so much of their value. */
const SHORT_SHARE = 0.5;

/** How long an event sounds, in seconds, where it stands in the tempo. */
export const eventLengthS = (grid: Grid, index: number, map: TempoMap): number => {
  const event = grid.events[index];
  if (!event) return 0.25;
  const at = beats(event.at);
  const wholeS = map.timeOf(at.add(beats(event.length)).valueOf()) - map.timeOf(at.valueOf());
  return event.notes.some(({ articulation }) => articulation === 'staccato') ? SHORT_SHARE * wholeS : wholeS;
};
