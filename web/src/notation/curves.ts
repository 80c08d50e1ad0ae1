import { Curve, type StaveNote, StaveTie, Stem } from 'vexflow/bravura';
import type { Drawn } from './drawn-note';
import { type Context, INK } from './ink';
import type { ScoreSymbol } from './score';
import type { Side } from './sides';

/** Ties between symbols of a voice, over the ends of the system too. */
export const drawTies = (context: Context, drawn: readonly Drawn[], isTiedInto: boolean): void => {
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

const NEAR_HEAD = 1;
const NEAR_STEM = 2;

/**
 * Slurs from where they start to where they end; one that leaves the system is drawn to its edge. Under notes whose stems all go up, over
 * all others; beside another voice on the outer side (common practice).
 *
 * @param sideOf which voice of how many a symbol has beside it
 */
export const drawSlurs = (context: Context, drawn: readonly Drawn[], sideOf: (symbol: ScoreSymbol) => Side): void => {
  const notes = drawn.filter(({ symbol }) => !symbol.isRest);
  let open: number | null = null;
  const curve = (from: number, to: number) => {
    const slurred = notes.slice(from, to + 1);
    const [first, last] = [slurred[0]?.note, slurred.at(-1)?.note] as [StaveNote, StaveNote];
    const isDown = (note: StaveNote) => note.getStemDirection() === Stem.DOWN;
    const beside = slurred.map(({ symbol }) => sideOf(symbol)).find(({ voices }) => voices > 1);
    const isOver = beside ? beside.voice === 0 : slurred.some(({ note }) => isDown(note));
    const side = (note: StaveNote) => (isDown(note) === isOver ? NEAR_HEAD : NEAR_STEM);
    new Curve(first, last, {
      cps: [
        { x: 0, y: 14 },
        { x: 0, y: 14 },
      ],
      // The package bends it as the last stem has it.
      invert: side(last) === NEAR_STEM,
      position: side(first),
      positionEnd: side(last),
    })
      .setContext(context)
      .setStyle(INK)
      .draw();
  };
  for (const [k, { symbol }] of notes.entries()) {
    if ((symbol.slur === 'end' || symbol.slur === 'both') && open !== null && open !== k) {
      curve(open, k);
      open = null;
    }
    if (symbol.slur === 'start' || symbol.slur === 'both') open = k;
  }
  if (open !== null && open < notes.length - 1) curve(open, notes.length - 1);
};
