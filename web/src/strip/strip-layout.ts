import { type AttackFault, attackFaults, isCertain, toleranceWindowMs } from '@isochron/core/analysis';
import { expectedNotes, openTempo, positionsOf } from '@isochron/core/material';
import { barStarts, type Grid, type Repetition, type Tolerance } from '@isochron/core/schema';
import { scaleLinear } from 'd3-scale';

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

/** One line of the strip, as on a page: the events from `from` up to but without `to`, over the width. */
export interface StripSystem {
  from: number;
  to: number;
  /** Positions of the bar lines inside it, in beats. */
  bars: number[];
  /** Whether it begins the grid, and whether it ends it. */
  isFirst: boolean;
  isLast: boolean;
  width: number;
  /** The columns lie between these, in pixels. */
  left: number;
  right: number;
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

/** What stands before the first column: clef, key and time signature, in pixels. */
export const headPx = ({ keys, meters }: Grid): number =>
  46 + 11 * Math.max(0, ...keys.map(({ fifths }) => Math.abs(fifths))) + (meters.length ? 38 : 0);

const WIDEST_COLUMN = 90;
/** Half-widths of the band and of a stroke's reach, as shares of the column. */
const BAND = 0.26;
const REACH = 0.47;

/** The shortest distance between neighbouring positions, in beats; 1 where there is only one. */
const shortest = (positions: readonly number[]): number =>
  positions
    .slice(1)
    .reduce((least, at, k) => Math.min(least, at - (positions[k] as number)), positions.length > 1 ? Infinity : 1);

/** Where a line may end: at every bar line, and where a bar alone is too long, at its beats. */
const breaks = (lines: readonly number[], first: number, fits: (from: number, to: number) => boolean): number[] => {
  const ends: number[] = [];
  let from = Math.min(first, 0);
  for (let bar = 0; bar + 1 < lines.length; bar += 1) {
    const start = lines[bar] as number;
    const end = lines[bar + 1] as number;
    if (fits(from, end)) continue;
    if (start > from) {
      ends.push(start);
      from = start;
    }
    for (let beat = from + 1; beat < end && !fits(from, end); beat += 1) {
      if (fits(from, beat + 1) && beat + 1 < end) continue;
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
  const positions = positionsOf(grid);
  const lines = barStarts(grid).map((line) => line.valueOf());
  const usable = width - room.left - room.right - 2 * room.inset;
  const within = (from: number, to: number) => positions.filter((at) => at >= from - 1e-9 && at < to - 1e-9);
  const fits = (from: number, to: number) => {
    const own = within(from, to);
    const span = (own.at(-1) ?? 0) - (own[0] ?? 0);
    return own.length < 2 || (span / shortest(own)) * room.leastColumn <= usable;
  };
  const cuts = breaks(lines, positions[0] ?? 0, fits);
  return [...cuts, Number.POSITIVE_INFINITY].flatMap((to, k) => {
    const from = cuts[k - 1] ?? Number.NEGATIVE_INFINITY;
    const own = within(from, to);
    if (own.length === 0) return [];
    const firstAt = own[0] as number;
    const lastAt = own.at(-1) as number;
    const left = room.left + room.inset;
    const right = width - room.right - room.inset;
    const span = Math.max(lastAt - firstAt, own.length > 1 ? 0 : 4);
    const scale = scaleLinear()
      .domain([firstAt, firstAt + span])
      .range([left, right]);
    // The outermost strokes stay on the page.
    const widest = Math.min(WIDEST_COLUMN, (room.inset + Math.min(room.left, room.right) - 1) / REACH);
    const column = Math.min(widest, scale(firstAt + shortest(own)) - left);
    return [
      {
        from: positions.indexOf(firstAt),
        to: positions.indexOf(lastAt) + 1,
        bars: lines.filter((line) => line > firstAt && line <= lastAt),
        isLast: positions.indexOf(lastAt) === positions.length - 1,
        isFirst: positions.indexOf(firstAt) === 0,
        width,
        left,
        right,
        beatX: (beat) => scale(beat),
        bandPx: BAND * column,
        reachPx: REACH * column,
      } satisfies StripSystem,
    ];
  });
};

/** The strokes of one repetition in a system. Deviations are drawn so that each note's own window ends at the band's edge. */
export const strokesOf = (
  repetition: Repetition,
  grid: Grid,
  system: StripSystem,
  tolerance: Tolerance,
  calibrated: boolean,
): Stroke[] => {
  const centre = calibrated ? 0 : (repetition.measures.placementMs?.value ?? 0);
  const notes = expectedNotes(grid, repetition.tempo, 0);
  const all = attackFaults(repetition.notes, (index) => grid.events[index]?.accent ?? false);
  return notes.slice(system.from, system.to).map(({ index, beat, intervalS, unsteadinessMs }) => {
    const gridX = system.beatX(beat);
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
export const extraXs = (repetition: Repetition, grid: Grid, system: StripSystem): number[] => {
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
