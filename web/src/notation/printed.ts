import { CLEFS } from '@isochron/core/material';
import type { Clef, Exact, Grid, Ornament } from '@isochron/core/schema';
import type { Stave, StaveNote } from 'vexflow/bravura';
import type { StripSystem } from '../strip/strip-layout';
import type { Drawn } from './drawn-note';
import type { Context } from './ink';
import { CLEF_PX, clefChangesOn } from './staff-clefs';

/** Signs of the music font (SMuFL). */
const ORNAMENT_GLYPHS: Record<Ornament, string> = {
  trill: '\uE566',
  mordent: '\uE56D',
  'inverted-mordent': '\uE56C',
  turn: '\uE567',
  'inverted-turn': '\uE568',
  buzz: '\uE22A',
};
const FERMATA_GLYPH = '\uE4C0';
const CLEF_GLYPHS = { G: '\uE07A', C: '\uE07B', F: '\uE07C', percussion: '\uE069' } as const;

/** So far over its note or its staff a sign stands, and so far over it the next one, in pixels. */
const OVER = 7;
const ROW = 15;

/** Ornaments and fermatas, over their notes and over the staff. */
export const drawOrnaments = (context: Context, drawn: readonly Drawn[], stave: Stave): void => {
  for (const { symbol, note } of drawn) {
    const { ornament, fermata } = symbol.printed;
    if (!ornament && !fermata) continue;
    const middle = note.getAbsoluteX() + note.getGlyphWidth() / 2;
    if (ornament === 'buzz') drawOnStem(context, note, ORNAMENT_GLYPHS.buzz);
    const stem = note.hasStem() ? note.getStemExtents() : { topY: Infinity, baseY: Infinity };
    let y = Math.min(stave.getYForLine(0), stem.topY, stem.baseY, ...note.getYs().map((head) => head - 5)) - OVER;
    for (const glyph of [ornament && ornament !== 'buzz' ? ORNAMENT_GLYPHS[ornament] : null, fermata ? FERMATA_GLYPH : null]) {
      if (!glyph) continue;
      context.setFont('Bravura', 29);
      context.fillText(glyph, middle - context.measureText(glyph).width / 2, y);
      y -= ROW;
    }
  }
};

/** A sign through the middle of a stem. */
const drawOnStem = (context: Context, note: StaveNote, glyph: string): void => {
  if (!note.hasStem()) return;
  const { topY, baseY } = note.getStemExtents();
  context.setFont('Bravura', 29);
  context.fillText(glyph, note.getStemX() - context.measureText(glyph).width / 2, (topY + baseY) / 2);
};

/** The smaller sign of a clef that changes within a line, so that it ends at x. */
export const drawClefChange = (context: Context, stave: Stave, clef: Clef, x: number): void => {
  context.setFont('Bravura', 29);
  context.fillText(CLEF_GLYPHS[CLEFS[clef].sign], x - CLEF_PX, stave.getYForLine(5 - CLEFS[clef].line));
};

/** Clefs that change within a bar of a system, each before its note. Those at bar lines stand before the line. */
export const drawClefChanges = (
  context: Context,
  { grid, system }: { grid: Grid; system: StripSystem },
  { drawn, stave }: { drawn: readonly Drawn[]; stave: Stave },
  staff: number,
): void => {
  const isInBar = (at: Exact) => at.gt(system.start) && at.lt(system.stop) && !system.bars.some((line) => line.equals(at));
  for (const { at, clef } of clefChangesOn(grid, staff).filter((change) => isInBar(change.at))) {
    const lefts = drawn.flatMap(({ symbol, note }) => {
      if (!symbol.at.equals(at)) return [];
      const { modLeftPx } = note.getMetrics();
      return [note.getAbsoluteX() - modLeftPx];
    });
    if (lefts.length > 0) drawClefChange(context, stave, clef, Math.min(...lefts) - 2);
  }
};
