import { majorKey } from '@isochron/core/material';
import { beats, type Exact, fifthsAt, type Grid } from '@isochron/core/schema';
import { group } from 'd3-array';
import { Accidental, ModifierContext, Stave, TickContext } from 'vexflow/bravura';
import { LAST_PX } from '../strip/beside-columns';
import { bracePx, headPx, type StripSystem } from '../strip/strip-layout';
import { accidentalsOf } from './accidentals';
import { beamsOf, tupletsOf } from './beams';
import { drawSlurs, drawTies } from './curves';
import { type Drawn, stemOf, toNote } from './drawn-note';
import { type Context, INK, SERIF } from './ink';
import { drawClefChanges, drawOrnaments } from './printed';
import { notationScore, type ScoreSymbol } from './score';
import { sideOfEach } from './sides';
import { clefAt, clefCode } from './staff-clefs';
import { staffTops } from './staff-places';

const ACCIDENTAL_CODES: Record<number, string> = { [-2]: 'bb', [-1]: 'b', 0: 'n', 1: '#', 2: '##' };

const endsBy = ({ at, length }: ScoreSymbol, moment: Exact): boolean => at.add(length).lte(moment);

/**
 * Silent bars before the first note of a system, and after its last one: each row of them is drawn as one, with how many they are.
 */
const silencesIn = (symbols: readonly ScoreSymbol[], first: Exact, last: Exact): ScoreSymbol[][] =>
  [
    symbols.filter((one) => one.isWholeBar && endsBy(one, first)),
    symbols.filter((one) => one.isWholeBar && one.at.gt(last)),
  ].filter((row) => row.length > 0);

/** How many silent bars a rest stands for, over it. */
const drawCount = (context: Context, { note }: Drawn, bars: number, stave: Stave): void => {
  if (bars < 2) return;
  context.setFont(SERIF, 15, 'bold');
  context.fillText(
    String(bars),
    note.getAbsoluteX() + note.getGlyphWidth() / 2 - 4 * String(bars).length,
    stave.getYForLine(0) - 5,
  );
};

/**
 * Gives every note its place: the strip's columns rule, each note head's middle stands over its gridline. What begins together, in
 * whatever voice, makes room for each other's heads, dots and accidentals.
 */
const place = (all: readonly Drawn[], stave: Stave, system: StripSystem, [first, last]: readonly [Exact, Exact]): void => {
  const places = group(all, ({ symbol }) => symbol.at.toFraction());
  // What is silent after the last note has no column: it shares the room at the end.
  const ordered = [...places.keys()].sort((a, b) => beats(a).compare(beats(b)));
  const trailing = ordered.filter((at) => beats(at).gt(last));
  // Nor has what comes before the first note: rests, and what is tied into the system. A bar that is silent on this staff alone has its middle.
  const isMiddle = (at: string) => places.get(at)?.every(({ symbol }) => symbol.isWholeBar && !endsBy(symbol, first)) ?? false;
  const leading = ordered.filter((at) => beats(at).lt(first) && !isMiddle(at));
  const besideX = (at: string): number | null => {
    if (trailing.includes(at)) {
      const room = (system.end - LAST_PX - system.right) / trailing.length;
      return system.right + 12 + room * (trailing.indexOf(at) + 0.5);
    }
    return leading.includes(at) ? system.left - system.lead * (1 - leading.indexOf(at) / leading.length) : null;
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
    const { at, length, isWholeBar } = lead.symbol;
    const x = system.beatX((isWholeBar ? at.add(length.div(2)) : at).valueOf());
    tick.setX((besideX(key) ?? Math.max(system.left, Math.min(x, system.right + 6))) - head);
  }
};

/** Draws one staff of a system; gives back its symbols and where its lines lie. */
export const drawStaff = (context: Context, { grid, system }: { grid: Grid; system: StripSystem }, staff: number) => {
  const clef = grid.staves[staff - 1]?.clef ?? 'treble';
  const begins = clefAt(grid, staff, system.start);
  const from = Math.max(0, system.left - system.lead - headPx(grid) + 2) + bracePx(grid.staves.length);
  const stave = new Stave(from, staffTops(grid)[staff - 1] ?? 0, system.end - from);
  // Where all sounds an octave lower, as for guitars and tenors, the treble clef has its 8.
  if (begins === 'treble' && grid.transposition === -12) stave.addClef(begins, 'default', '8vb');
  else stave.addClef(clefCode(begins));
  const fifths = fifthsAt(grid, system.start);
  if (fifths !== 0 && clef !== 'percussion') stave.addKeySignature(majorKey(fifths));
  const [meter] = grid.meters;
  if (system.isFirst && meter) stave.addTimeSignature(`${meter.count}/${meter.unit}`);
  stave.setStyle(INK);
  stave.setContext(context).draw();

  const positionOf = (event: number) => beats(grid.events[event]?.at ?? '0');
  const inSystem = ({ at }: ScoreSymbol) => at.gte(system.start) && at.lt(system.stop);
  const voices = notationScore(grid, staff);
  const sideOf = sideOfEach(voices, grid, clef);
  const [firstAt, lastAt] = [positionOf(system.from), positionOf(Math.min(system.to, grid.events.length) - 1)];
  const silences = voices.flatMap((symbols) => silencesIn(symbols.filter(inSystem), firstAt, lastAt));
  const left = new Set(silences.flatMap((row) => row.slice(1)));
  const all: Drawn[] = voices
    .flat()
    .filter((symbol) => inSystem(symbol) && !left.has(symbol))
    .map((symbol) => ({ symbol, note: toNote(symbol, clefAt(grid, staff, symbol.at), sideOf(symbol)) }));
  const accidentals = accidentalsOf(grid, staff);
  for (const { symbol, note } of all)
    for (const sign of accidentals.get(symbol) ?? [])
      note.addModifier(new Accidental(ACCIDENTAL_CODES[sign.alter] ?? 'n'), sign.note);
  const lines = voices.map((symbols) => {
    const own = all.filter(({ symbol }) => symbols.includes(symbol));
    return { symbols, own, shapes: [...beamsOf(own, grid, (symbol) => stemOf(sideOf(symbol), clef)), ...tupletsOf(own)] };
  });
  place(all, stave, system, [firstAt, lastAt]);
  for (const { note } of all) note.setContext(context).draw();
  for (const row of silences) {
    const drawn = all.find(({ symbol }) => symbol === row[0]);
    if (drawn) drawCount(context, drawn, row.length, stave);
  }
  for (const { symbols, own, shapes } of lines) {
    for (const shape of shapes) shape.setContext(context).draw();
    const before = symbols.findLast((symbol) => symbol.at.lt(system.start));
    drawTies(context, own, before?.tied ?? false);
    drawSlurs(context, own, sideOf);
  }
  drawOrnaments(context, all, stave);
  drawClefChanges(context, { grid, system }, { drawn: all, stave }, staff);
  const symbols = all.map(({ symbol }) => symbol);
  return { symbols, drawn: all, stave, top: stave.getYForLine(0), bottom: stave.getYForLine(4) };
};
