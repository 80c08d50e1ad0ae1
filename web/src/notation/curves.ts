import { Curve, type StaveNote, StaveTie } from 'vexflow/bravura';
import type { Drawn } from './drawn-note';
import { type Context, INK } from './ink';

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

/** Slurs from where they start to where they end; one that leaves the system is drawn to its edge. */
export const drawSlurs = (context: Context, drawn: readonly Drawn[]): void => {
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
