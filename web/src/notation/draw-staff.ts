import { majorKey } from '@isochron/core/material';
import { beats, type Exact, fifthsAt, type Grid } from '@isochron/core/schema';
import { group } from 'd3-array';
import { ModifierContext, Stave, TickContext } from 'vexflow/bravura';
import { bracePx, headPx, LAST_PX, type StripSystem } from '../strip/strip-layout';
import { addAccidentals } from './accidentals';
import { beamsOf, tupletsOf } from './beams';
import { drawSlurs, drawTies } from './curves';
import { type Drawn, stemOf, toNote } from './drawn-note';
import { type Context, INK } from './ink';
import { notationScore, type ScoreSymbol } from './score';
import { staffTops } from './staff-places';

/**
 * Gives every note its place: the strip's columns rule, each note head's middle stands over its gridline. What begins together, in
 * whatever voice, makes room for each other's heads, dots and accidentals.
 */
const place = (all: readonly Drawn[], stave: Stave, system: StripSystem, last: Exact): void => {
  const places = group(all, ({ symbol }) => symbol.at.toFraction());
  // What is silent after the last note has no column: it shares the room at the end.
  const trailing = [...places.keys()].filter((at) => beats(at).gt(last)).sort((a, b) => beats(a).compare(beats(b)));
  const restX = (at: string) => {
    const room = (system.end - LAST_PX - system.right) / Math.max(1, trailing.length);
    return system.right + 12 + room * (trailing.indexOf(at) + 0.5);
  };
  for (const [key, together] of places) {
    const tick = new TickContext();
    const modifiers = new ModifierContext();
    for (const { note } of together) {
      note.setStave(stave);
      note.setStyle(INK).setStemStyle(INK).setLedgerLineStyle(INK);
      note.addToModifierContext(modifiers);
      tick.addTickable(note);
    }
    tick.preFormat();
    tick.setX(0);
    const lead = (together.find(({ symbol }) => !symbol.isRest) ?? together[0]) as Drawn;
    const head = lead.note.getAbsoluteX() + lead.note.getGlyphWidth() / 2;
    const isWholeRest = lead.symbol.isRest && lead.symbol.value === 1;
    const { at, length } = lead.symbol;
    const x = system.beatX((isWholeRest ? at.add(length.div(2)) : at).valueOf());
    tick.setX((trailing.includes(key) ? restX(key) : Math.min(x, system.right + 6)) - head);
  }
};

/** Draws one staff of a system; gives back its symbols and where its lines lie. */
export const drawStaff = (context: Context, { grid, system }: { grid: Grid; system: StripSystem }, staff: number) => {
  const clef = grid.staves[staff - 1]?.clef ?? 'treble';
  const from = Math.max(0, system.left - headPx(grid) + 2) + bracePx(grid.staves.length);
  const stave = new Stave(from, staffTops(grid)[staff - 1] ?? 0, system.end - from);
  // Where all sounds an octave lower, as for guitars and tenors, the treble clef has its 8.
  if (clef === 'treble' && grid.transposition === -12) stave.addClef(clef, 'default', '8vb');
  else stave.addClef(clef);
  const first = beats(grid.events[system.from]?.at ?? '0');
  const after = grid.events[system.to]?.at;
  const fifths = fifthsAt(grid, first);
  if (fifths !== 0 && clef !== 'percussion') stave.addKeySignature(majorKey(fifths));
  const [meter] = grid.meters;
  if (system.isFirst && meter) stave.addTimeSignature(`${meter.count}/${meter.unit}`);
  stave.setStyle(INK);
  stave.setContext(context).draw();

  const last = beats(grid.events[Math.min(system.to, grid.events.length) - 1]?.at ?? '0');
  const inSystem = ({ at }: ScoreSymbol) => at.gte(first) && (after === undefined || at.lt(beats(after)));
  const voices = notationScore(grid, staff);
  const all: Drawn[] = [];
  voices.forEach((symbols, voice) => {
    const drawn = symbols.filter(inSystem).map((symbol) => ({ symbol, note: toNote(symbol, clef, voice, voices.length) }));
    all.push(...drawn);
  });
  addAccidentals(all, grid, clef);
  const lines = voices.map((symbols, voice) => {
    const own = all.filter(({ symbol }) => symbols.includes(symbol));
    return { symbols, own, shapes: [...beamsOf(own, grid, stemOf(voice, voices.length, clef)), ...tupletsOf(own)] };
  });
  place(all, stave, system, last);
  for (const { note } of all) note.setContext(context).draw();
  for (const { symbols, own, shapes } of lines) {
    for (const shape of shapes) shape.setContext(context).draw();
    const before = symbols.findLast((symbol) => symbol.at.lt(first));
    drawTies(context, own, before?.tied ?? false);
    drawSlurs(context, own);
  }
  const symbols = all.map(({ symbol }) => symbol);
  return { symbols, stave, top: stave.getYForLine(0), bottom: stave.getYForLine(4) };
};
