import { swingMarks } from '@isochron/core/material';
import { barStarts, beats, type Exact, type Grid } from '@isochron/core/schema';
import { max } from 'd3-array';
import { Renderer, StaveConnector } from 'vexflow/bravura';
import { gracePx, type StripSystem } from '../strip/strip-layout';
import { drawStaff } from './draw-staff';
import { COLOUR, type Context, SANS, SERIF } from './ink';
import { KEY_SIGN_PX, keyChangeSigns, METER_PX } from './key-change';
import { drawClefChange } from './printed';
import { CLEF_PX, clefAt, clefChangesOn } from './staff-clefs';
import { chordRow, dynamicsFloors, MARK_ROW, notationHeight, syllableFloors } from './staff-places';
import { markedStaves } from './staff-reach';
import { drawWords, WORD_ROW } from './word-rows';

/** What is drawn: one system of a grid, and what is written around its notes. */
export interface NotationProps {
  grid: Grid;
  system: StripSystem;
  /** Events beside which a sign of caution is drawn. */
  spots?: ReadonlySet<number>;
  /** Numbers of the bars as the page has them. */
  barNumbers?: readonly (number | string)[];
  /** Leaves out what is written beside the notes, where it is shown in another way. */
  withoutMarks?: boolean;
}

type DrawnStaff = ReturnType<typeof drawStaff>;

/** Draws a system of notation into an element, in place of what was there. Throws where the package cannot draw it. */
export const drawNotation = (target: HTMLDivElement, props: NotationProps): void => {
  const { grid, system } = props;
  const height = notationHeight(grid);
  target.replaceChildren();
  const context = new Renderer(target, Renderer.Backends.SVG).resize(system.width, height).getContext();
  context.setFillStyle(COLOUR);
  context.setStrokeStyle(COLOUR);
  const staves = grid.staves.map((_, k) => drawStaff(context, props, k + 1));
  const top = staves[0]?.top ?? 0;
  const bottom = staves.at(-1)?.bottom ?? height;
  drawDynamics(context, props, staves);
  drawMarks(context, props, staves, height);
  drawBarLines(context, props, staves);
  drawBarNumbers(context, props, staves, top - 12);
  drawSwing(context, props, top - 12);
  drawWords(context, props, WORD_ROW - 6, syllableFloors(grid));
  if (system.isLast) {
    context.fillRect(system.end - 7, top, 1, bottom - top);
    context.fillRect(system.end - 3, top, 3, bottom - top + 1);
  }
  const [upper, lower] = staves;
  if (upper && lower)
    for (const kind of ['brace', 'singleLeft'] as const)
      new StaveConnector(upper.stave, lower.stave).setType(kind).setContext(context).draw();
  keepFonts(target);
};

const drawDynamics = (context: Context, { grid, system }: NotationProps, staves: readonly DrawnStaff[]): void => {
  const floors = dynamicsFloors(grid);
  context.setFont(SERIF, 17, 'bold', 'italic');
  for (const [k, { symbols, bottom }] of staves.entries())
    for (const { at, dynamic } of symbols)
      if (dynamic) context.fillText(dynamic, system.beatX(at.valueOf()) - 10, Math.min(bottom + 34, floors[k] ?? bottom));
};

/** Fingers, sticks and strokes under the notes, a row for each staff that has them, the upper staff's first; signs of caution over them. */
const drawMarks = (
  context: Context,
  { grid, system, spots, withoutMarks = false }: NotationProps,
  staves: readonly DrawnStaff[],
  height: number,
): void => {
  context.setFont(SANS, 14);
  const rows = markedStaves(grid);
  const rowY = (row: number) => height - 8 - MARK_ROW * (rows.length - 1 - row);
  for (const [k, { symbols }] of staves.entries()) {
    const marked = new Set<number>();
    for (const { at, mark, event } of symbols) {
      const x = system.beatX(at.valueOf());
      if (event !== null && spots?.has(event)) drawSpot(context, x, rowY(0) - 14);
      if (withoutMarks || !mark || marked.has(x)) continue;
      marked.add(x);
      context.fillText(mark, x - 3.5 * mark.length, rowY(rows.indexOf(k + 1)));
    }
  }
};

/** A bar line is no farther from the first note of its bar, in pixels. */
const BEFORE_BAR_PX = 24;

/** Bar lines between the columns, each with the change of key and meter that it brings. */
const drawBarLines = (context: Context, { grid, system }: NotationProps, staves: readonly DrawnStaff[]): void => {
  const top = staves[0]?.top ?? 0;
  const bottom = staves.at(-1)?.bottom ?? top;
  const positions = staves.flatMap(({ symbols }) => symbols.map(({ at }) => at));
  const startsAt =
    (line: Exact) =>
    ({ at }: { at: string }, k: number): boolean =>
      // The first one stands at the head of the staff, also where notes come before its bar.
      k > 0 && line.equals(beats(at));
  for (const x of linesBeside(staves, system, grid)) context.fillRect(x, top, 1, bottom - top);
  for (const line of system.bars) {
    const meter = grid.meters.find(startsAt(line));
    const key = grid.keys.findIndex(startsAt(line));
    const [now, then] = [grid.keys[key]?.fifths ?? 0, grid.keys[key - 1]?.fifths ?? 0];
    const signs = key > 0 ? keyChangeSigns('treble', now, then).length * KEY_SIGN_PX : 0;
    const before = max(positions, (at) => (at.lt(line) ? at.valueOf() : undefined)) ?? line.valueOf();
    const middle = system.beatX((line.valueOf() + before) / 2);
    const following = grid.events.find(({ at }) => line.equals(beats(at)));
    // Grace notes belong to the bar that they lead into.
    const graces = following ? gracePx(following) : 0;
    // After a long note it stands by the bar that it begins.
    const newClefs = staves.map((_, k) => clefChangesOn(grid, k + 1).find(({ at }) => at.equals(line))?.clef ?? null);
    const clefs = newClefs.some(Boolean) ? CLEF_PX / 2 : 0;
    const x =
      clefs +
      Math.max(middle - graces / 2, system.beatX(line.valueOf()) - BEFORE_BAR_PX - graces) -
      (meter ? METER_PX : 0) -
      signs;
    for (const [k, clef] of newClefs.entries()) if (clef) drawClefChange(context, (staves[k] as DrawnStaff).stave, clef, x - 4);
    if (key > 0) {
      context.setFont('Bravura', 29);
      for (const [k, { stave }] of staves.entries())
        for (const [n, sign] of keyChangeSigns(clefAt(grid, k + 1, line), now, then).entries())
          context.fillText(sign.glyph, x + 5 + n * KEY_SIGN_PX, stave.getYForLine(sign.line));
    }
    context.fillRect(x, top, 1, bottom - top);
    if (meter) {
      context.setFont(SERIF, 19, 'bold');
      context.fillText(String(meter.count), x + 3 + signs, top + 17);
      context.fillText(String(meter.unit), x + 3 + signs, top + 37);
    }
  }
};

/** So far before its first symbol a bar line stands that has no columns on both sides, in pixels. */
const BESIDE_BAR_PX = 9;

/** Bar lines among what has no columns: rests and tied notes before the first note of a system, and after its last one. */
const linesBeside = (staves: readonly DrawnStaff[], system: StripSystem, grid: Grid): number[] => {
  const between = barStarts(grid).filter((line) => line.gt(system.start) && line.lt(system.stop));
  return between.flatMap((line) => {
    if (system.bars.some((own) => own.equals(line))) return [];
    const lefts = staves.flatMap(({ drawn }) =>
      drawn.flatMap(({ symbol, note }) => (symbol.at.equals(line) ? [note.getAbsoluteX() - note.getMetrics().modLeftPx] : [])),
    );
    // Silent bars that are drawn as one have no lines between them.
    return lefts.length > 0 ? [Math.min(...lefts) - BESIDE_BAR_PX] : [];
  });
};

/** So far before its first note a bar's number stands, over the bar line: a high note has its own place. */
const BAR_NUMBER_PX = 24;

/** So wide a number is, and so far over it nothing else stands. */
const NUMBER_PX = 22;
const NUMBER_HEIGHT = 11;

const drawBarNumbers = (
  context: Context,
  { grid, system, barNumbers }: NotationProps,
  staves: readonly DrawnStaff[],
  y: number,
): void => {
  if (!barNumbers) return;
  context.setFont(SANS, 12);
  const tops = (staves[0]?.drawn ?? []).map(({ note }) => ({ x: note.getAbsoluteX(), top: note.getBoundingBox().getY() }));
  for (const [bar, line] of barStarts(grid).slice(0, -1).entries()) {
    const isStart = line.equals(system.start);
    if (!isStart && !system.bars.some((own) => own.equals(line))) continue;
    const x = (isStart ? system.left - system.lead : system.beatX(line.valueOf())) - BAR_NUMBER_PX;
    // Beams and high notes have their place.
    const near = tops.filter((note) => note.x > x - NUMBER_PX / 2 && note.x < x + NUMBER_PX);
    const free = Math.min(y, ...near.map(({ top }) => top - 3));
    context.fillText(String(barNumbers[bar] ?? ''), x, Math.max(NUMBER_HEIGHT + chordRow(grid), free));
  }
};

const SWING_WORDS: Record<string, string> = { straight: 'straight', own: 'swing' };

/** How eighths swing, where that begins or changes. */
const drawSwing = (context: Context, { grid, system }: NotationProps, y: number): void => {
  context.setFont(SERIF, 15, 'normal', 'italic');
  for (const [event, swing] of swingMarks(grid))
    if (event >= system.from && event < system.to)
      context.fillText(
        SWING_WORDS[swing] ?? `swing ${swing} : 1`,
        system.beatX(beats(grid.events[event]?.at ?? '0').valueOf()) + 12,
        y,
      );
};

/** A small sign of caution: a wedge that points at the note. */
const drawSpot = (context: Context, x: number, y: number): void => {
  context.beginPath();
  context.moveTo(x, y - 8);
  context.lineTo(x - 5, y);
  context.lineTo(x + 5, y);
  context.closePath();
  context.stroke();
};

const FONT_ATTRIBUTES = ['font-family', 'font-size', 'font-weight', 'font-style'] as const;

/** The page's reset lets every element inherit its font, which outweighs SVG attributes: say them again as styles. */
const keepFonts = (target: HTMLDivElement): void => {
  for (const element of target.querySelectorAll<SVGElement>('svg, svg *')) {
    for (const name of FONT_ATTRIBUTES) {
      const value = element.getAttribute(name);
      if (value) element.style.setProperty(name, value);
    }
  }
};
