import { Box } from '@chakra-ui/react';
import { keyAlters, majorKey } from '@isochron/core/material';
import { barStarts, beatsNumber, type Grid } from '@isochron/core/schema';
import { memo, useEffect, useRef, useState } from 'react';
import {
  Accidental,
  Articulation,
  Beam,
  Curve,
  Dot,
  GraceNote,
  GraceNoteGroup,
  ModifierContext,
  Renderer,
  Stave,
  StaveNote,
  StaveTie,
  Stem,
  TickContext,
  Tuplet,
} from 'vexflow/bravura';
import { KEY_SIGN_PX, keyChangeSigns } from './key-change';
import { notationScore, notationWords, pitchKey, type ScoreSymbol, stepsBelow, tupletGroups } from './notation-score';
import { headPx, type StripSystem } from './strip-layout';

interface Props {
  title: string;
  grid: Grid;
  system: StripSystem;
  /** Events beside which a sign of caution is drawn. */
  spots?: ReadonlySet<number>;
  /** Numbers of the bars as the page has them. */
  barNumbers?: readonly (number | string)[];
  /** Leaves out what is written beside the notes, where it is shown in another way. */
  withoutMarks?: boolean;
}

const STAVE_Y = 12;
const STAFF_HEIGHT = 104;
const MARKS_HEIGHT = 42;
/** So many steps below the last staff nothing is in the way of the marks; each further one takes its room. */
const STEPS_FREE = 6;
const STEP_PX = 5;

/** How tall the notation of a grid is, in pixels. */
const notationHeight = (grid: Grid): number =>
  grid.staves.length * STAFF_HEIGHT + MARKS_HEIGHT + 18 + Math.max(0, stepsBelow(grid) - STEPS_FREE) * STEP_PX;

/** Where a note without pitch, or a rest, stands on its staff; the voices of one staff stand apart. */
const MIDDLE: Record<string, string> = { treble: 'b/4', bass: 'd/3', alto: 'c/4', tenor: 'a/3', percussion: 'b/4' };
const REST_LINES: Record<string, readonly [string, string]> = {
  treble: ['e/5', 'f/4'],
  bass: ['g/3', 'a/2'],
  alto: ['f/4', 'g/3'],
  tenor: ['d/4', 'e/3'],
  percussion: ['e/5', 'f/4'],
};
const ARTICULATION_CODES = { staccato: 'a.', tenuto: 'a-', staccatissimo: 'av', marcato: 'a^' } as const;
const ACCIDENTAL_CODES: Record<number, string> = { [-2]: 'bb', [-1]: 'b', 0: 'n', 1: '#', 2: '##' };
const ABOVE = 3;
const BELOW = 4;

type Context = ReturnType<Renderer['getContext']>;

// Follows the appearance without being drawn again.
const COLOUR = 'currentColor';
const INK = { fillStyle: COLOUR, strokeStyle: COLOUR };

/** A symbol with the note that is drawn for it. */
interface Drawn {
  symbol: ScoreSymbol;
  note: StaveNote;
}

const stemOf = (voice: number, voices: number): number | null => (voices < 2 ? null : voice === 0 ? Stem.UP : Stem.DOWN);

const toNote = (symbol: ScoreSymbol, clef: string, voice: number, voices: number): StaveNote => {
  const middle = MIDDLE[clef] ?? 'b/4';
  const restKey = voices > 1 ? (REST_LINES[clef]?.[Math.min(1, voice)] ?? middle) : middle;
  const stem = stemOf(voice, voices);
  const head = clef === 'percussion' && symbol.pitches.every((pitch) => pitch === null) ? '/x2' : '';
  const note = new StaveNote({
    keys: symbol.isRest ? [restKey] : symbol.pitches.map((pitch) => (pitch ? pitchKey(pitch) : `${middle}${head}`)),
    duration: `${symbol.value}${symbol.isRest ? 'r' : ''}`,
    dots: symbol.dots,
    clef,
    ...(stem === null ? { autoStem: true } : { stemDirection: stem }),
  });
  for (let dot = 0; dot < symbol.dots; dot += 1) Dot.buildAndAttach([note], { all: true });
  const headSide = note.getStemDirection() === Stem.UP ? BELOW : ABOVE;
  if (symbol.articulation) note.addModifier(new Articulation(ARTICULATION_CODES[symbol.articulation]).setPosition(headSide));
  if (symbol.hasAccent && symbol.articulation !== 'marcato') note.addModifier(new Articulation('a>').setPosition(ABOVE));
  if (symbol.graces.length > 0) {
    const graces = symbol.graces.map(
      (pitch) => new GraceNote({ keys: [pitchKey(pitch)], duration: '8', slash: symbol.graces.length === 1, clef }),
    );
    note.addModifier(new GraceNoteGroup(graces, true), 0);
  }
  return note;
};

/** Accidentals as print has them: where a note differs from its key, or from what stands before it in its bar; never after a tie. */
const addAccidentals = (drawn: readonly Drawn[], grid: Grid): void => {
  const lines = barStarts(grid).map((line) => line.valueOf());
  const keys = grid.keys.map(({ at, fifths }) => ({ at: beatsNumber(at), fifths }));
  let bar = Number.NaN;
  let inForce = new Map<string, number>();
  const tied = new Map<string, number>();
  for (const { symbol, note } of [...drawn].sort((a, b) => a.symbol.at - b.symbol.at)) {
    if (symbol.isRest) continue;
    const own = lines.findLastIndex((line) => line <= symbol.at + 1e-9);
    if (own !== bar) {
      bar = own;
      inForce = new Map();
    }
    const fifths = keys.filter(({ at }) => at <= symbol.at + 1e-9).at(-1)?.fifths ?? keys[0]?.fifths ?? 0;
    const alters = keyAlters(fifths);
    symbol.pitches.forEach((pitch, k) => {
      if (!pitch) return;
      const place = `${pitch.step}${pitch.octave}`;
      const isContinued = tied.get(`${symbol.voice}/${place}`) === symbol.at;
      if (!isContinued && (inForce.get(place) ?? alters[pitch.step]) !== pitch.alter)
        note.addModifier(new Accidental(ACCIDENTAL_CODES[pitch.alter] ?? 'n'), k);
      if (!isContinued) inForce.set(place, pitch.alter);
      if (symbol.tied) tied.set(`${symbol.voice}/${place}`, symbol.at + symbol.length);
    });
  }
};

/** Beams join the short notes of one beat; plain eighths in fours under an even number of quarters. */
const beamsOf = (drawn: readonly Drawn[], grid: Grid, stem: number | null): Beam[] => {
  const [meter] = grid.meters;
  const pairs = meter?.unit === 4 && meter.count % 2 === 0 && grid.beatUnit === '1/4';
  const lines = barStarts(grid).map((line) => line.valueOf());
  const groupOf = (symbol: ScoreSymbol): string => {
    const bar = lines.findLastIndex((line) => line <= symbol.at + 1e-9);
    const inBar = symbol.at - (lines[Math.max(0, bar)] ?? 0);
    return `${bar}/${Math.floor(inBar + 1e-6)}`;
  };
  const groups: Drawn[][] = [];
  let before = '';
  for (const one of drawn) {
    const { symbol } = one;
    if (symbol.isRest || symbol.value < 8) {
      before = '';
      continue;
    }
    const group = groupOf(symbol);
    if (group === before) (groups.at(-1) as Drawn[]).push(one);
    else groups.push([one]);
    before = group;
  }
  // Two beats of plain eighths are one beam where they fill half a bar.
  const merged: Drawn[][] = [];
  for (const group of groups) {
    const last = merged.at(-1);
    const isEighths = (some: readonly Drawn[]) =>
      some.length === 2 && some.every(({ symbol }) => symbol.value === 8 && !symbol.tuplet && symbol.dots === 0);
    const start = last?.[0]?.symbol.at ?? 0;
    const bar = lines.findLastIndex((line) => line <= start + 1e-9);
    const startsHalf = Math.abs((start - (lines[Math.max(0, bar)] ?? 0)) % 2) < 1e-6;
    const follows = last && Math.abs((group[0]?.symbol.at ?? 0) - start - 1) < 1e-6;
    if (pairs && last && isEighths(last) && isEighths(group) && startsHalf && follows) last.push(...group);
    else merged.push([...group]);
  }
  return merged
    .filter((group) => group.length > 1)
    .map(
      (group) =>
        new Beam(
          group.map(({ note }) => note),
          stem === null,
        ),
    );
};

const tupletsOf = (drawn: readonly Drawn[]): Tuplet[] =>
  tupletGroups(drawn.map(({ symbol }) => symbol)).flatMap(({ from, to, actual, normal }) => {
    const notes = drawn.slice(from, to).map(({ note }) => note);
    if (notes.length < 2) return [];
    const isBeamed = drawn.slice(from, to).every(({ symbol }) => !symbol.isRest && symbol.value >= 8);
    return [new Tuplet(notes, { numNotes: actual, notesOccupied: normal, bracketed: !isBeamed, ratioed: false })];
  });

/** Ties between symbols of a voice, over the ends of the system too. */
const drawTies = (context: Context, drawn: readonly Drawn[], isTiedInto: boolean): void => {
  const tie = (firstNote?: StaveNote, lastNote?: StaveNote) => {
    const keys = (firstNote ?? lastNote)?.getKeys().map((_, k) => k) ?? [0];
    new StaveTie({ firstNote, lastNote, firstIndexes: keys, lastIndexes: keys } as ConstructorParameters<typeof StaveTie>[0])
      .setContext(context)
      .draw();
  };
  if (isTiedInto && drawn[0]) tie(undefined, drawn[0].note);
  drawn.forEach(({ symbol, note }, k) => {
    if (symbol.tied) tie(note, drawn[k + 1]?.note);
  });
};

/** Slurs from where they start to where they end; one that leaves the system is drawn to its edge. */
const drawSlurs = (context: Context, drawn: readonly Drawn[]): void => {
  let open: StaveNote | null = null;
  const curve = (from: StaveNote, to: StaveNote) => {
    new Curve(from, to, {
      cps: [
        { x: 0, y: 14 },
        { x: 0, y: 14 },
      ],
      invert: false,
      position: 1,
      positionEnd: 1,
    })
      .setContext(context)
      .setStyle(INK)
      .draw();
  };
  for (const { symbol, note } of drawn) {
    if (symbol.isRest) continue;
    if ((symbol.slur === 'end' || symbol.slur === 'both') && open && open !== note) {
      curve(open, note);
      open = null;
    }
    if (symbol.slur === 'start' || symbol.slur === 'both') open = note;
  }
  const last = drawn.filter(({ symbol }) => !symbol.isRest).at(-1)?.note;
  if (open && last && last !== open) curve(open, last);
};

/**
 * Gives every note its place: the strip's columns rule, each note head's middle stands over its gridline. What begins together, in
 * whatever voice, makes room for each other's heads, dots and accidentals.
 */
const place = (all: readonly Drawn[], stave: Stave, system: StripSystem): void => {
  const together = new Map<number, Drawn[]>();
  for (const one of all) together.set(one.symbol.at, [...(together.get(one.symbol.at) ?? []), one]);
  for (const [at, group] of together) {
    const tick = new TickContext();
    const modifiers = new ModifierContext();
    for (const { note } of group) {
      note.setStave(stave);
      note.setStyle(INK).setStemStyle(INK).setLedgerLineStyle(INK);
      note.addToModifierContext(modifiers);
      tick.addTickable(note);
    }
    tick.preFormat();
    tick.setX(0);
    const lead = (group.find(({ symbol }) => !symbol.isRest) ?? group[0]) as Drawn;
    const head = lead.note.getAbsoluteX() + lead.note.getGlyphWidth() / 2;
    const isWholeRest = lead.symbol.isRest && lead.symbol.value === 1;
    const x = system.beatX(isWholeRest ? at + lead.symbol.length / 2 : at);
    tick.setX(Math.min(x, system.right + 6) - head);
  }
};

/** Draws one staff of a system; gives back its symbols and where its lines lie. */
const drawStaff = (context: Context, { grid, system }: Props, staff: number) => {
  const clef = grid.staves[staff - 1]?.clef ?? 'treble';
  const from = Math.max(0, system.left - headPx(grid) + 2);
  const stave = new Stave(from, STAVE_Y + (staff - 1) * STAFF_HEIGHT, system.right + 18 - from);
  stave.addClef(clef);
  const first = beatsNumber(grid.events[system.from]?.at ?? '0');
  const after = grid.events[system.to]?.at;
  const fifths = grid.keys.filter(({ at }) => beatsNumber(at) <= first + 1e-9).at(-1)?.fifths ?? grid.keys[0]?.fifths ?? 0;
  if (fifths !== 0) stave.addKeySignature(majorKey(fifths));
  const [meter] = grid.meters;
  if (system.isFirst && meter) stave.addTimeSignature(`${meter.count}/${meter.unit}`);
  stave.setStyle(INK);
  stave.setContext(context).draw();

  const last = beatsNumber(grid.events[Math.min(system.to, grid.events.length) - 1]?.at ?? '0');
  // What is silent after the last note of a system has no column.
  const inSystem = ({ at, isRest }: ScoreSymbol) =>
    at >= first - 1e-9 && (after === undefined || at < beatsNumber(after) - 1e-9) && !(isRest && at > last);
  const voices = notationScore(grid, staff);
  const all: Drawn[] = [];
  voices.forEach((symbols, voice) => {
    const drawn = symbols.filter(inSystem).map((symbol) => ({ symbol, note: toNote(symbol, clef, voice, voices.length) }));
    all.push(...drawn);
  });
  addAccidentals(all, grid);
  const lines = voices.map((symbols, voice) => {
    const own = all.filter(({ symbol }) => symbols.includes(symbol));
    return { symbols, own, shapes: [...beamsOf(own, grid, stemOf(voice, voices.length)), ...tupletsOf(own)] };
  });
  place(all, stave, system);
  for (const { note } of all) note.setContext(context).draw();
  for (const { symbols, own, shapes } of lines) {
    for (const shape of shapes) shape.setContext(context).draw();
    const before = symbols.filter((symbol) => symbol.at < first - 1e-9).at(-1);
    drawTies(context, own, before?.tied ?? false);
    drawSlurs(context, own);
  }
  const symbols = all.map(({ symbol }) => symbol);
  return { symbols, stave, top: stave.getYForLine(0), bottom: stave.getYForLine(4) };
};

const SANS = "'Source Sans 3 Variable', sans-serif";
const SERIF = "'Source Serif 4 Variable', serif";

const draw = (target: HTMLDivElement, props: Props): void => {
  const { grid, system, spots, barNumbers, withoutMarks = false } = props;
  const height = notationHeight(grid);
  target.replaceChildren();
  const context = new Renderer(target, Renderer.Backends.SVG).resize(system.width, height).getContext();
  context.setFillStyle(COLOUR);
  context.setStrokeStyle(COLOUR);
  const drawn = grid.staves.map((_, k) => drawStaff(context, props, k + 1));
  const top = drawn[0]?.top ?? 0;
  const bottom = drawn.at(-1)?.bottom ?? height;
  context.setFont(SERIF, 17, 'bold', 'italic');
  for (const [k, { symbols, bottom: foot }] of drawn.entries())
    for (const { at, dynamic } of symbols)
      if (dynamic) context.fillText(dynamic, system.beatX(at) - 10, Math.min(foot + 34, STAVE_Y + (k + 1) * STAFF_HEIGHT + 4));
  context.setFont(SANS, 14);
  const marked = new Set<number>();
  const symbols = drawn.flatMap((one) => one.symbols);
  for (const { at, mark, event } of symbols) {
    if (event !== null && spots?.has(event)) drawSpot(context, system.beatX(at), height - 22);
    if (withoutMarks || !mark || marked.has(at)) continue;
    marked.add(at);
    context.fillText(mark, system.beatX(at) - 3.5 * mark.length, height - 8);
  }
  const lines = barStarts(grid).map((line) => line.valueOf());
  const positions = symbols.map(({ at }) => at);
  for (const beat of system.bars) {
    const before = Math.max(...positions.filter((at) => at < beat - 1e-9));
    const meter = grid.meters.find(({ at }) => Math.abs(beatsNumber(at) - beat) < 1e-9);
    const key = grid.keys.findIndex(({ at }, k) => k > 0 && Math.abs(beatsNumber(at) - beat) < 1e-9);
    const [now, then] = [grid.keys[key]?.fifths ?? 0, grid.keys[key - 1]?.fifths ?? 0];
    const signs = key > 0 ? keyChangeSigns('treble', now, then).length * KEY_SIGN_PX : 0;
    const x = system.beatX(beat - (beat - before) / 2) - (meter ? 12 : 0) - signs;
    if (key > 0)
      for (const [k, { stave }] of drawn.entries()) {
        context.setFont('Bravura', 29);
        for (const [n, { glyph, line }] of keyChangeSigns(grid.staves[k]?.clef ?? 'treble', now, then).entries())
          context.fillText(glyph, x + 5 + n * KEY_SIGN_PX, stave.getYForLine(line));
      }
    context.fillRect(x, top, 1, bottom - top);
    if (meter) {
      context.setFont(SERIF, 19, 'bold');
      context.fillText(String(meter.count), x + 3 + signs, top + 17);
      context.fillText(String(meter.unit), x + 3 + signs, top + 37);
    }
  }
  if (barNumbers) {
    context.setFont(SANS, 12);
    const first = beatsNumber(grid.events[system.from]?.at ?? '0');
    for (const [bar, line] of lines.slice(0, -1).entries())
      if (line >= first - 1e-9 && (system.bars.includes(line) || Math.abs(line - first) < 1e-9))
        context.fillText(String(barNumbers[bar] ?? ''), system.beatX(line) - 4, top - 12);
  }
  if (system.isLast) {
    context.fillRect(system.right + 11, top, 1, bottom - top);
    context.fillRect(system.right + 15, top, 3, bottom - top + 1);
  }
  if (drawn.length > 1) context.fillRect(Math.max(0, system.left - headPx(grid) + 2), top, 1, bottom - top);
  keepFonts(target);
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
    if (!ready || !target.current) return;
    try {
      draw(target.current, props);
    } catch (error) {
      console.error(error);
      // What the package cannot draw must not take the page with it: the text alternative says the notes.
      target.current.textContent = 'These bars cannot be drawn; their notes can be played all the same.';
    }
  }, [ready, props]);
  const { title, grid, system } = props;
  return (
    <Box
      ref={target}
      color="ink"
      height={`${notationHeight(grid)}px`}
      overflow="hidden"
      role="img"
      aria-label={`Notation of ${title}: ${notationWords(grid, system.from, system.to)}`}
    />
  );
});

export default Notation;
