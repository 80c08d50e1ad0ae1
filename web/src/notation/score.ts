import { piecesBetween, placesIn, stepsUp, type WrittenValue, writtenValue } from '@isochron/core/material';
import {
  barStarts,
  beats,
  type Exact,
  exactBisector,
  type Grid,
  type GridEvent,
  type GridNote,
  type Pitch,
  type Printed,
} from '@isochron/core/schema';
import { group } from 'd3-array';
import { markOf } from './note-mark';

/** One notated symbol: a note, a chord or a rest, as it is drawn. Positions are beats from the first downbeat. */
export interface ScoreSymbol extends WrittenValue {
  at: Exact;
  /** Its length in beats, as written. */
  length: Exact;
  isRest: boolean;
  /** A rest that fills its bar: written as a whole one in any meter, in the middle of it. */
  isWholeBar: boolean;
  pitches: (Pitch | null)[];
  voice: number;
  /** Tied to the symbol that follows in its voice. */
  tied: boolean;
  hasAccent: boolean;
  articulation?: GridNote['articulation'];
  dynamic?: GridNote['dynamic'];
  slur?: GridNote['slur'];
  graces: readonly (Pitch | null)[];
  /** What is drawn at it and not measured. */
  printed: Printed;
  /** What is written beside it: a finger, a stick, a hand, a stroke. */
  mark: string;
  /** Which event of the grid it belongs to; null for rests and what ties continue. */
  event: number | null;
}

/** The notes of one voice at one place: they are one symbol. */
interface Sounded {
  at: Exact;
  end: Exact;
  notes: GridNote[];
  event: GridEvent;
  index: number;
  /** All that its voice has at this place: what is written beside them stands with the notes that are struck on first. */
  marked: GridNote[];
}

/** A stretch of beats cut where symbols must not reach across: at bar lines, and at beats where it begins between them. */
const cutAtLines = (from: Exact, to: Exact, lines: readonly Exact[], beat: Exact): [Exact, Exact][] => {
  const cuts = lines.slice(exactBisector.right(lines, from), exactBisector.left(lines, to));
  // What begins off the beat and reaches past the next one is cut there, so that the eye sees the beat. A whole beat may be syncopated.
  const bar = lines[barOf(from, lines)] ?? beats(0);
  const inBar = from.sub(bar).div(beat);
  const next = bar.add(inBar.ceil().mul(beat));
  const isOff = !inBar.equals(inBar.round());
  if (isOff && next.compare(to) < 0 && to.sub(from).compare(beat) > 0 && !cuts.some((cut) => cut.equals(next))) cuts.push(next);
  const edges = [from, ...cuts.sort((a, b) => a.compare(b)), to];
  return edges.slice(1).map((edge, k) => [edges[k] as Exact, edge]);
};

/** What the notes of a chord have between them. */
const printedOf = (notes: readonly GridNote[]): Printed => Object.assign({}, ...notes.map(({ printed }) => printed));

/** A length nearest to one that can be written, not longer; what was played a little short is written as it was meant. */
const asWritten = (length: Exact, room: Exact | null): Exact => {
  // Notes that fill most of the way to the next one are written as if they filled it.
  if (room && room.compare(length) > 0 && room.sub(length).compare(room.div(8)) <= 0) return room;
  return length;
};

const WHOLE: WrittenValue = { value: 1, dots: 0 };

/** The symbols of one voice of a staff, rests included, in order. */
const voiceSymbols = (sounded: readonly Sounded[], grid: Grid, lines: readonly Exact[], staff: number): ScoreSymbol[] => {
  const unit = beats(grid.beatUnit);
  const placeOf = placesIn(grid);
  const symbols: ScoreSymbol[] = [];
  const startOfBar = (at: Exact) => lines[barOf(at, lines)] ?? beats(0);
  const cut = (from: Exact, to: Exact) => cutAtLines(from, to, lines, placeOf(from).beat);
  /** What is written of a stretch that reaches over no line. */
  const pieces = ([start, end]: readonly [Exact, Exact]): { at: Exact; length: Exact; written: WrittenValue }[] => {
    let at = start;
    return piecesBetween(start.sub(startOfBar(start)), end.sub(startOfBar(start)), unit).flatMap((piece) => {
      const written = writtenValue(piece);
      const own = { at, length: piece.div(unit), written: written ?? { value: 64, dots: 0 as const } };
      at = at.add(own.length);
      return own.length.compare(0) > 0 ? [own] : [];
    });
  };
  /** A dotted rest as two where the beat is not of three: the longer one where its length divides the bar (common practice). */
  const undotted = (piece: ReturnType<typeof pieces>[number]): ReturnType<typeof pieces> => {
    const { at, length, written } = piece;
    const { inBar, beat } = placeOf(at);
    if (written.dots !== 1 || !isPlain(beat.mul(unit), false)) return [piece];
    const [long, short] = [length.mul(2).div(3), length.div(3)];
    const first = inBar.mod(long).equals(0) ? long : short;
    const part = (from: Exact, own: Exact) => ({ at: from, length: own, written: writtenValue(own.mul(unit)) ?? written });
    return [part(at, first), part(at.add(first), length.sub(first))];
  };
  const fillsBar = ([from, to]: readonly [Exact, Exact]) =>
    startOfBar(from).equals(from) && lines[barOf(from, lines) + 1]?.equals(to) === true;
  const rest = (from: Exact, to: Exact) => {
    const silent = cut(from, to).flatMap((stretch) => {
      const [at, end] = stretch;
      if (fillsBar(stretch)) return [{ at, length: end.sub(at), written: WHOLE, isWholeBar: true }];
      return pieces(stretch)
        .flatMap(undotted)
        .map((piece) => ({ ...piece, isWholeBar: false }));
    });
    for (const { at, length, written, isWholeBar } of silent)
      symbols.push({
        ...written,
        at,
        length,
        isRest: true,
        isWholeBar,
        pitches: [],
        voice: sounded[0]?.notes[0]?.voice ?? 1,
        tied: false,
        hasAccent: false,
        graces: [],
        printed: {},
        mark: '',
        event: null,
      });
  };
  const first = beats(grid.pickup).neg();
  let position = first.compare(0) < 0 && sounded[0] ? sounded[0].at : beats(0);
  sounded.forEach((one, k) => {
    if (one.at.compare(position) > 0) rest(position, one.at);
    const next = sounded[k + 1];
    const room = next ? next.at.sub(one.at) : null;
    const length = asWritten(one.end.sub(one.at), room);
    const limit = room && length.compare(room) > 0 ? room : length;
    const end = one.at.add(limit);
    const all = cut(one.at, end).flatMap(pieces);
    const marks = [...new Set(one.marked.map((note) => markOf(note, grid.staves.length === 1)))].filter(Boolean).join('\u2009');
    const [lead] = one.notes as [GridNote];
    all.forEach(({ at, length: own, written }, n) => {
      const isFirst = n === 0;
      symbols.push({
        ...written,
        at,
        length: own,
        isRest: false,
        isWholeBar: false,
        pitches: one.notes.map((note) => note.pitch),
        voice: lead.voice,
        tied: n < all.length - 1,
        hasAccent: isFirst && one.marked.length > 0 && one.event.accent && one.event.notes.at(-1)?.staff === staff,
        ...(isFirst && lead.articulation ? { articulation: lead.articulation } : {}),
        ...(isFirst && lead.dynamic ? { dynamic: lead.dynamic } : {}),
        ...(isFirst && lead.slur ? { slur: lead.slur } : {}),
        graces: isFirst ? one.notes.flatMap((note) => note.graces ?? []) : [],
        printed: isFirst ? printedOf(one.notes) : {},
        mark: isFirst ? marks : '',
        event: isFirst ? one.index : null,
      });
    });
    position = end;
  });
  // What is left of the last bar is silence.
  const last = lines.at(-1) as Exact;
  if (sounded.length > 0 && position.compare(last) < 0) rest(position, last);
  return symbols;
};

/**
 * The symbols of one staff of a grid, voice by voice: notes and chords with their ties over bar lines and beats, rests in the gaps, any
 * tuplet. A voice begins where its first note does and is silent where it has none; only the first one has its rests drawn throughout.
 */
export const notationScore = (grid: Grid, staff = 1): ScoreSymbol[][] => {
  // A long passage is drawn system by system: its symbols are worked out once.
  const known = SCORES.get(grid) ?? new Map<number, ScoreSymbol[][]>();
  SCORES.set(grid, known);
  const score = known.get(staff) ?? scoreOf(grid, staff);
  known.set(staff, score);
  return score;
};

const SCORES = new WeakMap<Grid, Map<number, ScoreSymbol[][]>>();

/** A note of a chord that is held so many times as long as another is written in a line of its own. */
const HELD = 1.5;
/** How far the line of held notes lies from that of its voice: above it or below. */
const BESIDE = 0.1;

/** The notes of a voice at one place: those that move on first, and those that are held over them, higher or lower. */
const movingAndHeld = (notes: readonly GridNote[]): { moving: GridNote[]; above: GridNote[]; below: GridNote[] } => {
  const least = notes.map(lengthOf).reduce((shortest, one) => (one.lt(shortest) ? one : shortest));
  const isHeld = (note: GridNote) => lengthOf(note).valueOf() >= HELD * least.valueOf();
  const moving = notes.filter((note) => !isHeld(note));
  const top = Math.max(...moving.map(({ pitch }) => (pitch ? stepsUp(pitch) : 0)));
  const held = notes.filter(isHeld);
  const isAbove = ({ pitch }: GridNote) => pitch !== null && stepsUp(pitch) > top;
  return { moving, above: held.filter(isAbove), below: held.filter((note) => !isAbove(note)) };
};

const lengthOf = ({ length }: GridNote): Exact => beats(length);

const scoreOf = (grid: Grid, staff: number): ScoreSymbol[][] => {
  const bars = barStarts(grid);
  const lines = new Map<number, Sounded[]>();
  grid.events.forEach((event, index) => {
    const at = beats(event.at);
    const voices = group(
      event.notes.filter((one) => one.staff === staff),
      ({ voice }) => voice,
    );
    for (const [voice, own] of voices) {
      const { moving, above, below } = movingAndHeld(own);
      const parts: [line: number, notes: GridNote[], marked: GridNote[]][] = [
        [voice, moving, own],
        [voice - BESIDE, above, []],
        [voice + BESIDE, below, []],
      ];
      for (const [line, notes, marked] of parts) {
        if (notes.length === 0) continue;
        const shortest = notes.map(lengthOf).reduce((least, one) => (one.lt(least) ? one : least));
        const sounded = lines.get(line) ?? [];
        sounded.push({ at, end: at.add(shortest), notes, event, index, marked });
        lines.set(line, sounded);
      }
    }
  });
  const inOrder = [...lines].sort(([a], [b]) => a - b);
  const leading = inOrder.find(([line]) => Number.isInteger(line))?.[0];
  return inOrder.map(([line, sounded]) => {
    const symbols = voiceSymbols(sounded, grid, bars, staff);
    if (line === leading) return symbols;
    // Rests of a second voice are drawn only where it sounds in the same bar, those of held notes never.
    const isRestDrawn = (rest: ScoreSymbol) => Number.isInteger(line) && hasNoteInBar(rest, symbols, bars);
    return symbols.filter((symbol) => !symbol.isRest || isRestDrawn(symbol));
  });
};

/** Which bar a place lies in, counted from 0; -1 before the first downbeat. */
export const barOf = (at: Exact, lines: readonly Exact[]): number => exactBisector.right(lines, at) - 1;

const hasNoteInBar = (rest: ScoreSymbol, symbols: readonly ScoreSymbol[], lines: readonly Exact[]): boolean => {
  const bar = barOf(rest.at, lines);
  return symbols.some(({ isRest, at }) => !isRest && barOf(at, lines) === bar);
};

const SIGNS: Record<number, string> = { [-2]: 'bb', [-1]: 'b', 0: '', 1: '#', 2: '##' };

/** A pitch as the notation package writes it: middle C is "c/4". */
export const pitchKey = ({ step, alter, octave }: Pitch): string => `${step.toLowerCase()}${SIGNS[alter] ?? ''}/${octave}`;

/** Neighbouring symbols of one tuplet, by their places in a voice: as many as fill it. */
export const tupletGroups = (
  symbols: readonly ScoreSymbol[],
): { from: number; to: number; actual: number; normal: number }[] => {
  const groups: { from: number; to: number; actual: number; normal: number }[] = [];
  for (let from = 0; from < symbols.length; ) {
    const tuplet = symbols[from]?.tuplet;
    if (!tuplet) {
      from += 1;
      continue;
    }
    // The group is full where its length is a plain note value again.
    let to = from;
    let length = beats(0);
    while (to < symbols.length && sameTuplet(symbols[to]?.tuplet, tuplet)) {
      length = length.add(symbols[to]?.length ?? 0);
      to += 1;
      if (isPlain(length) && to - from >= 2) break;
    }
    groups.push({ from, to, ...tuplet });
    from = to;
  }
  return groups;
};

const sameTuplet = (a: ScoreSymbol['tuplet'], b: ScoreSymbol['tuplet']): boolean =>
  a?.actual === b?.actual && a?.normal === b?.normal;

/** Whether a length is a plain one: a power of two of its unit, or, where threes count as well, such threes. */
const isPlain = (length: Exact, byThrees = true): boolean =>
  (byThrees ? [length, length.div(3)] : [length]).some(({ n, d }) => isPowerOfTwo(n) && isPowerOfTwo(d));
const isPowerOfTwo = (value: bigint): boolean => value > 0n && (value & (value - 1n)) === 0n;
