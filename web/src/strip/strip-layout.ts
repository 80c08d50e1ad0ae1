import { type AttackFault, attackFaults, isCertain, toleranceWindowMs } from '@isochron/core/analysis';
import { exactPositionsOf, expectedNotes, openTempo, positionsOf } from '@isochron/core/material';
import {
  barStarts,
  beats,
  type Exact,
  exactBisector,
  type Grid,
  type GridEvent,
  type Repetition,
  type Tolerance,
} from '@isochron/core/schema';
import { max } from 'd3-array';
import { scaleLinear } from 'd3-scale';
import { CLEF_PX, hasClefChange } from '../notation/staff-clefs';
import { wordsApartPx } from '../notation/word-rows';
import { barLinePx, LAST_PX, leadPx, tailPx } from './beside-columns';

/** One note's stroke on the strip. */
export interface Stroke {
  index: number;
  /** Where the gridline is, and where the stroke is, in pixels. */
  gridX: number;
  x: number | null;
  /** Deviation shown: from the repetition's own placement unless latency is known. */
  shownMs: number | null;
  side: 'early' | 'late' | 'on';
  /** How it spoke, where that was out of the ordinary. */
  faults: readonly AttackFault[];
  /** Not heard for certain: drawn pale. */
  isUnsure: boolean;
}

/** What a row of the strip is drawn from. While it still sounds it has no verdict, and of what is not behind yet no notes. */
export type StripRepetition = Pick<Repetition, 'index' | 'tempo' | 'downbeatS' | 'notes' | 'extras'> &
  (
    | Pick<Repetition, 'verdict' | 'measures'>
    | { verdict?: undefined; measures: Pick<Repetition['measures'], 'centreMs'> & { placementMs?: undefined } }
  );

/** One line of the strip, as on a page: the events from `from` up to but without `to`, over the width. */
export interface StripSystem {
  from: number;
  to: number;
  /** From where up to but without where it goes, in beats: mostly bar lines. */
  start: Exact;
  stop: Exact;
  /** Positions of the bar lines inside it, in beats. */
  bars: Exact[];
  /** Whether it begins the grid, and whether it ends it. */
  isFirst: boolean;
  isLast: boolean;
  width: number;
  /** The columns lie between these, in pixels. */
  left: number;
  right: number;
  /** What stands between the signatures and the first column, rests and tied notes, in pixels. */
  lead: number;
  /** Where its staff ends, in pixels: what follows the last column, dots and rests, has its room before that. */
  end: number;
  /** x of a position in beats. */
  beatX: (beat: number) => number;
  /** Half-width of the tolerance band and the farthest a stroke is drawn from its gridline, in pixels. */
  bandPx: number;
  reachPx: number;
}

/** How much room a strip gives its rows' words and its columns. */
interface Room {
  /** Beside the columns; on a narrow page the words stand above each row instead. */
  left: number;
  right: number;
  inset: number;
  /** A column is never narrower than this: a stroke must belong to its column at a glance. */
  leastColumn: number;
}

/** Pages narrower than this have their words above the rows. */
export const NARROW = 820;

const roomFor = (width: number): Room =>
  width >= NARROW ? { left: 96, right: 220, inset: 26, leastColumn: 22 } : { left: 34, right: 4, inset: 12, leastColumn: 15 };

/** A line that need not be full has its beats no wider than this, in pixels. */
const WIDEST_BEAT = 280;

/** The brace of two staves, in pixels. */
export const bracePx = (staves: number): number => (staves > 1 ? 14 : 0);

const GRACE_PX = 12;

/** What grace notes before an event take, in pixels. */
export const gracePx = ({ notes }: GridEvent): number => {
  const graces = Math.max(0, ...notes.map((note) => note.graces?.length ?? 0));
  return graces === 0 ? 0 : GRACE_PX * (graces + 1);
};

/** What stands before the first column: clef, key and time signature, and grace notes where there are any, in pixels. */
export const headPx = ({ keys, meters, staves, events }: Grid): number => {
  const signs = Math.max(0, ...keys.map(({ fifths }) => Math.abs(fifths)));
  const [meter] = meters;
  return (
    Math.max(0, ...events.map(gracePx)) +
    46 +
    bracePx(staves.length) +
    (signs > 0 ? 10 + 11 * signs : 0) +
    (meter ? 26 + 12 * String(Math.max(meter.count, meter.unit)).length : 0)
  );
};

const WIDEST_COLUMN = 90;
/** Half-widths of the band and of a stroke's reach, as shares of the column. */
const BAND = 0.26;
const REACH = 0.47;

/** The shortest distance between neighbouring positions, in beats; 1 where there is only one. */
const shortest = (positions: readonly Exact[]): number =>
  positions.length < 2
    ? 1
    : positions.slice(1).reduce((least, at, k) => Math.min(least, at.sub(positions[k] as Exact).valueOf()), Infinity);

/** Where a line may end: at every bar line, and where a bar alone is too long, at its beats. */
const breaks = (lines: readonly Exact[], begin: Exact, fits: (from: Exact, to: Exact) => boolean): Exact[] => {
  const ends: Exact[] = [];
  let from = begin;
  for (const [bar, end] of lines.slice(1).entries()) {
    const start = lines[bar] as Exact;
    if (fits(from, end)) continue;
    if (start.gt(from)) {
      ends.push(start);
      from = start;
    }
    for (let beat = from.add(1); beat.lt(end) && !fits(from, end); beat = beat.add(1)) {
      if (fits(from, beat.add(1)) && beat.add(1).lt(end)) continue;
      ends.push(beat);
      from = beat;
    }
  }
  return ends;
};

/**
 * The horizontal layout of a strip: notes by notated position, the tolerance a fixed share of the narrowest column, set in as
 * many systems as the width asks for. `hasWords`: whether rows stand under it, with their words beside them.
 */
export const stripSystems = (grid: Grid, width: number, hasWords = true): StripSystem[] => {
  const wide = roomFor(width);
  // Notation alone has no words beside it.
  const base = hasWords ? wide : { ...wide, left: 20, right: 8 };
  // Signatures need their room before the first column.
  const room = { ...base, left: Math.max(base.left, headPx(grid) - base.inset) };
  const positions = exactPositionsOf(grid);
  const lines = barStarts(grid);
  const barLines = lines.map((at) => ({ at, px: barLinePx(grid, at) }));
  const usable = width - room.left - room.right - 2 * room.inset;
  /** The events before a position: as many as stand before a system that begins there. */
  const before = (at: Exact) => exactBisector.left(positions, at);
  /** How wide a beat must be for the room between each event and the one before: for grace notes, bar lines, clefs and words. */
  const pxPerBeat = positions.slice(1).map((at, k) => {
    const previous = positions[k] as Exact;
    const next = barLines[exactBisector.right(lines, previous)];
    const line = next?.at.lte(at) ? next : undefined;
    const [left, right] = grid.events.slice(k, k + 2) as [GridEvent, GridEvent];
    const between = gracePx(right) + (line?.px ?? 0) + (hasClefChange(grid, at) ? CLEF_PX : 0);
    return Math.max(room.leastColumn + between, wordsApartPx(left, right)) / at.sub(previous).valueOf();
  });
  const fits = (from: Exact, to: Exact) => {
    const [start, stop] = [before(from), before(to)];
    const [first, last] = [positions[start], positions[stop - 1]];
    if (stop - start < 2 || !first || !last) return true;
    const beside = tailPx(grid, stop, to) - LAST_PX + leadPx(grid, from, first);
    const widest = max(pxPerBeat.slice(start, stop - 1)) ?? 0;
    return last.sub(first).valueOf() * widest <= usable - beside;
  };
  const begin = positions[0]?.lt(0) ? (positions[0] as Exact) : beats(0);
  const cuts = [begin, ...breaks(lines, begin, fits), lines.at(-1) as Exact];
  const edges = [0, ...cuts.slice(1, -1).map(before), positions.length];
  return edges.slice(1).flatMap((to, k) => {
    const from = edges[k] as number;
    const own = positions.slice(from, to);
    if (own.length === 0) return [];
    const [first, last] = [own[0] as Exact, own.at(-1) as Exact];
    const [firstAt, lastAt] = [first.valueOf(), last.valueOf()];
    const [start, stop] = [cuts[k] as Exact, cuts[k + 1] as Exact];
    const lead = leadPx(grid, start, first);
    const left = room.left + room.inset + lead;
    const tail = tailPx(grid, to, stop);
    const full = width - room.right - room.inset + LAST_PX - tail;
    // A last line of a few notes is not spread over the page.
    const isLast = to === positions.length;
    const right = isLast ? Math.min(full, left + WIDEST_BEAT * (lastAt - firstAt)) : full;
    const end = right + tail;
    const span = Math.max(lastAt - firstAt, own.length > 1 ? 0 : 4);
    const scale = scaleLinear()
      .domain([firstAt, firstAt + span])
      .range([left, own.length > 1 ? right : full]);
    // The outermost strokes stay on the page.
    const widest = Math.min(WIDEST_COLUMN, (room.inset + Math.min(room.left, room.right) - 1) / REACH);
    const column = Math.min(widest, scale(firstAt + shortest(own)) - left);
    return [
      {
        from,
        to,
        start,
        stop,
        bars: lines.filter((line) => line.gt(first) && line.lte(last)),
        isLast,
        isFirst: from === 0,
        width,
        left,
        right,
        lead,
        end,
        beatX: (beat) => scale(beat),
        bandPx: BAND * column,
        reachPx: REACH * column,
      } satisfies StripSystem,
    ];
  });
};

/** The strokes of one repetition in a system. Deviations are drawn so that each note's own window ends at the band's edge. */
export const strokesOf = (
  repetition: StripRepetition,
  grid: Grid,
  system: StripSystem,
  tolerance: Tolerance,
  calibrated: boolean,
): Stroke[] => {
  const { centreMs, placementMs } = repetition.measures;
  const centre = calibrated ? 0 : (centreMs ?? placementMs?.value ?? 0);
  const notes = expectedNotes(grid, repetition.tempo, 0);
  const all = attackFaults(repetition.notes, (index) => grid.events[index]?.accent ?? false);
  // Swung notes stand where they are written, as in print.
  const written = positionsOf(grid);
  return notes.slice(system.from, system.to).map(({ index, intervalS, unsteadinessMs }) => {
    const gridX = system.beatX(written[index] as number);
    const note = repetition.notes[index];
    const deviationMs = note?.deviationMs ?? null;
    if (deviationMs === null) return { index, gridX, x: null, shownMs: null, side: 'on', faults: [], isUnsure: false };
    const windowMs = toleranceWindowMs(tolerance, 1000 * intervalS, unsteadinessMs);
    const shownMs = deviationMs - centre;
    const px = Math.max(-system.reachPx, Math.min(system.reachPx, (shownMs / windowMs) * system.bandPx));
    const side = Math.abs(shownMs) <= windowMs ? 'on' : shownMs < 0 ? 'early' : 'late';
    return {
      index,
      gridX,
      x: gridX + px,
      shownMs,
      side,
      faults: all.filter((fault) => fault.index === index),
      isUnsure: note !== undefined && !isCertain(note),
    };
  });
};

/** Where the extra notes of a repetition lie in a system, in pixels. */
export const extraXs = (repetition: StripRepetition, grid: Grid, system: StripSystem): number[] => {
  const map = openTempo(repetition.tempo);
  const positions = positionsOf(grid);
  const from = system.from === 0 ? Number.NEGATIVE_INFINITY : (positions[system.from] as number);
  const to = positions[system.to] ?? Number.POSITIVE_INFINITY;
  const edge = (x: number) => Math.max(system.left - system.reachPx, Math.min(system.right + system.reachPx, x));
  return repetition.extras
    .map((extra) => map.beatOf(extra.timeS - repetition.downbeatS))
    .filter((beat) => beat >= from && beat < to)
    .map((beat) => edge(system.beatX(beat)));
};
