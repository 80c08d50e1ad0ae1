import { Box } from '@chakra-ui/react';
import type { Exercise } from '@isochron/core';
import { mean } from '@isochron/core';
import { memo, useEffect, useRef, useState } from 'react';
import { Accidental, Beam, Dot, Renderer, Stave, StaveNote, TickContext, Tuplet, Voice } from 'vexflow/bravura';
import { notationScore, pitchKey, type ScoreSymbol } from './notation-score';
import type { StripScale } from './strip-layout';

interface Props {
  exercise: Exercise;
  scale: StripScale;
  /** Positions of the bar lines, in beats. */
  bars: readonly number[];
  height: number;
}

const STAVE_Y = 6;

const toNote = (symbol: ScoreSymbol, clef: string): StaveNote => {
  const keys = symbol.isRest
    ? [clef === 'bass' ? 'd/3' : 'b/4']
    : symbol.pitches.length
      ? symbol.pitches.map(pitchKey)
      : ['b/4'];
  const note = new StaveNote({
    keys,
    duration: `${symbol.value}${symbol.isRest ? 'r' : ''}`,
    dots: symbol.dots,
    clef,
    autoStem: true,
  });
  if (symbol.dots > 0) Dot.buildAndAttach([note], { all: true });
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

const draw = (target: HTMLDivElement, { exercise, scale, bars, height }: Props): void => {
  target.replaceChildren();
  const context = new Renderer(target, Renderer.Backends.SVG).resize(scale.width, height).getContext();
  // Follows the appearance without being drawn again.
  const colour = 'currentColor';
  context.setFillStyle(colour);
  context.setStrokeStyle(colour);
  const ink = { fillStyle: colour, strokeStyle: colour };
  const left = 30;
  const right = scale.width - 222;
  const pitches = exercise.events.flatMap((event) => event.pitches);
  const clef = pitches.length && mean(pitches) < 58 ? 'bass' : 'treble';
  const stave = new Stave(left, STAVE_Y, right - left);
  stave.addClef(clef);
  stave.setContext(context).draw();

  const symbols = notationScore(exercise);
  const notes = symbols.map((symbol) => toNote(symbol, clef));
  const voice = new Voice({ numBeats: 4, beatValue: 4 }).setStrict(false).addTickables(notes);
  Accidental.applyAccidentals([voice], 'C');
  const beams = beamsOf(symbols, notes);
  const tuplets = tripletsOf(symbols, notes);
  notes.forEach((note, k) => {
    note.setStave(stave);
    note.setStyle(ink).setStemStyle(ink).setLedgerLineStyle(ink);
    const tick = new TickContext();
    tick.addTickable(note).preFormat();
    tick.setX(0);
    // The strip's columns rule: each note head's middle stands over its gridline.
    const head = note.getAbsoluteX() + note.getGlyphWidth() / 2;
    tick.setX(scale.beatX((symbols[k] as ScoreSymbol).at) - head);
    note.setContext(context).draw();
  });
  context.setFont("'Source Sans 3 Variable', sans-serif", 14);
  for (const { at, fingering } of symbols) {
    if (fingering) context.fillText(fingering, scale.beatX(at) - 4, height - 6);
  }
  for (const shape of [...beams, ...tuplets]) shape.setContext(context).draw();
  const top = stave.getYForLine(0);
  const bottom = stave.getYForLine(4);
  for (const beat of bars) {
    const before = symbols.filter((symbol) => symbol.at < beat).at(-1)?.at ?? beat - 1;
    const x = scale.beatX(beat - (beat - before) / 2);
    context.fillRect(x, top, 1, bottom - top);
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

/** The notation above the strip, each note over its column. Drawn by VexFlow; loaded when first needed. */
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
  return (
    <Box
      ref={target}
      color="ink"
      height={`${props.height}px`}
      role="img"
      aria-label={`Notation of ${props.exercise.title}: ${props.exercise.events.length} notes`}
    />
  );
});

export default Notation;
