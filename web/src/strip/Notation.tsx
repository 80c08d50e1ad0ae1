import { Box } from '@chakra-ui/react';
import type { Grid } from '@isochron/core';
import { memo, useEffect, useRef, useState } from 'react';
import { Accidental, Articulation, Beam, Dot, Renderer, Stave, StaveNote, TickContext, Tuplet, Voice } from 'vexflow/bravura';
import { keyName, notationScore, pitchKey, type ScoreSymbol } from './notation-score';
import type { StripSystem } from './strip-layout';

interface Props {
  title: string;
  grid: Grid;
  system: StripSystem;
}

const STAVE_Y = 6;
const STAFF_HEIGHT = 98;
const MARKS_HEIGHT = 30;

/** How tall the notation of a grid is, in pixels. */
export const notationHeight = (grid: Grid): number => grid.staves.length * STAFF_HEIGHT + MARKS_HEIGHT + 12;

/** Where a note without pitch, or a rest, stands on its staff. */
const MIDDLE: Record<string, string> = { treble: 'b/4', bass: 'd/3', alto: 'c/4', tenor: 'a/3', percussion: 'b/4' };

const toNote = (symbol: ScoreSymbol, clef: string): StaveNote => {
  const middle = MIDDLE[clef] ?? 'b/4';
  const note = new StaveNote({
    keys: symbol.isRest ? [middle] : symbol.pitches.map((pitch) => (pitch ? pitchKey(pitch) : middle)),
    duration: `${symbol.value}${symbol.isRest ? 'r' : ''}`,
    dots: symbol.dots,
    clef,
    autoStem: true,
  });
  if (symbol.dots > 0) Dot.buildAndAttach([note], { all: true });
  if (symbol.hasAccent) note.addModifier(new Articulation('a>').setPosition(3));
  return note;
};

/** Neighbouring triplet symbols in threes. */
const tripletsOf = (symbols: readonly ScoreSymbol[], notes: readonly StaveNote[]): Tuplet[] => {
  const tuplets: Tuplet[] = [];
  for (let k = 0; k + 2 < symbols.length; k += 1) {
    if (!symbols.slice(k, k + 3).every((symbol) => symbol.isTriplet)) continue;
    tuplets.push(new Tuplet(notes.slice(k, k + 3), { numNotes: 3, notesOccupied: 2, bracketed: false }));
    k += 2;
  }
  return tuplets;
};

/** Beams join the short notes of one beat. */
const beamsOf = (symbols: readonly ScoreSymbol[], notes: readonly StaveNote[]): Beam[] => {
  const groups = new Map<number, StaveNote[]>();
  symbols.forEach((symbol, k) => {
    if (symbol.isRest || symbol.value < 8) return;
    const beat = Math.floor(symbol.at + 1e-6);
    groups.set(beat, [...(groups.get(beat) ?? []), notes[k] as StaveNote]);
  });
  return [...groups.values()].filter((group) => group.length > 1).map((group) => new Beam(group, true));
};

// Follows the appearance without being drawn again.
const COLOUR = 'currentColor';
const INK = { fillStyle: COLOUR, strokeStyle: COLOUR };

type Context = ReturnType<Renderer['getContext']>;

/** Draws one staff of a system; gives back its symbols and where its lines lie. */
const drawStaff = (context: Context, { grid, system }: Props, staff: number) => {
  const clef = grid.staves[staff - 1]?.clef ?? 'treble';
  const from = system.left - 44;
  const stave = new Stave(Math.max(0, from), STAVE_Y + (staff - 1) * STAFF_HEIGHT, system.right + 18 - Math.max(0, from));
  stave.addClef(clef);
  const fifths = grid.keys[0]?.fifths ?? 0;
  stave.setContext(context).draw();

  const first = grid.events[system.from]?.at ?? '0';
  const after = grid.events[system.to]?.at;
  const inSystem = ({ at }: ScoreSymbol) =>
    at >= numberOf(first) - 1e-9 && (after === undefined || at < numberOf(after) - 1e-9);
  const symbols = notationScore(grid, staff).filter(inSystem);
  const notes = symbols.map((symbol) => toNote(symbol, clef));
  const voice = new Voice({ numBeats: 4, beatValue: 4 }).setStrict(false).addTickables(notes);
  Accidental.applyAccidentals([voice], keyName(fifths));
  const beams = beamsOf(symbols, notes);
  const tuplets = tripletsOf(symbols, notes);
  notes.forEach((note, k) => {
    note.setStave(stave);
    note.setStyle(INK).setStemStyle(INK).setLedgerLineStyle(INK);
    const tick = new TickContext();
    tick.addTickable(note).preFormat();
    tick.setX(0);
    // The strip's columns rule: each note head's middle stands over its gridline.
    const head = note.getAbsoluteX() + note.getGlyphWidth() / 2;
    tick.setX(system.beatX((symbols[k] as ScoreSymbol).at) - head);
    note.setContext(context).draw();
  });
  for (const shape of [...beams, ...tuplets]) shape.setContext(context).draw();
  return { symbols, top: stave.getYForLine(0), bottom: stave.getYForLine(4) };
};

const numberOf = (at: string): number => {
  const [above = 0, below = 1] = at.split('/').map(Number);
  return above / below;
};

const draw = (target: HTMLDivElement, props: Props): void => {
  const { grid, system } = props;
  const height = notationHeight(grid);
  target.replaceChildren();
  const context = new Renderer(target, Renderer.Backends.SVG).resize(system.width, height).getContext();
  context.setFillStyle(COLOUR);
  context.setStrokeStyle(COLOUR);
  const drawn = grid.staves.map((_, k) => drawStaff(context, props, k + 1));
  context.setFont("'Source Sans 3 Variable', sans-serif", 14);
  const marked = new Set<number>();
  for (const { at, mark } of drawn.flatMap(({ symbols }) => symbols)) {
    if (!mark || marked.has(at)) continue;
    marked.add(at);
    context.fillText(mark, system.beatX(at) - 3.5 * mark.length, height - 8);
  }
  const top = drawn[0]?.top ?? 0;
  const bottom = drawn.at(-1)?.bottom ?? height;
  const positions = drawn.flatMap(({ symbols }) => symbols.map(({ at }) => at));
  for (const beat of system.bars) {
    const before = Math.max(...positions.filter((at) => at < beat - 1e-9));
    context.fillRect(system.beatX(beat - (beat - before) / 2), top, 1, bottom - top);
  }
  keepFonts(target);
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

/** The notation above a system of the strip, each note over its column. Drawn by VexFlow; loaded when first needed. */
const Notation = memo((props: Props) => {
  const target = useRef<HTMLDivElement>(null);
  const [ready, setReady] = useState(false);
  useEffect(() => {
    // Drawn before its font is there, notation would be empty boxes.
    void Promise.all([document.fonts.load('30px Bravura'), document.fonts.load('14px "Source Sans 3 Variable"')]).then(() =>
      setReady(true),
    );
  }, []);
  useEffect(() => {
    if (ready && target.current) draw(target.current, props);
  }, [ready, props]);
  const { title, grid, system } = props;
  return (
    <Box
      ref={target}
      color="ink"
      height={`${notationHeight(grid)}px`}
      overflow="hidden"
      role="img"
      aria-label={`Notation of ${title}: notes ${system.from + 1} to ${system.to}`}
    />
  );
});

export default Notation;
