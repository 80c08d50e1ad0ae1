import type Fraction from 'fraction.js';
import { beats, writeBeats } from '../../schema/beats';
import { barStarts, meterBeats } from '../../schema/frame';
import type { Grid, GridEvent } from '../../schema/grid';
import { cutAt, moved } from './chain';
import { endOf, fillBars } from './fill-bars';

/** The change of meter or key in force at a position. */
const inForce = <Change extends { at: string }>(changes: readonly Change[], at: Fraction): Change =>
  (changes.filter((change) => beats(change.at).compare(at) <= 0).at(-1) ?? changes[0]) as Change;

/** Changes as a stretch that begins at `zero` has them. */
const changesFrom = <Change extends { at: string }>(changes: readonly Change[], zero: Fraction): Change[] => [
  { ...inForce(changes, zero), at: '0' },
  ...changes
    .map((change) => ({ ...change, at: beats(change.at).sub(zero) }))
    .filter(({ at }) => at.compare(0) > 0)
    .map((change) => ({ ...change, at: writeBeats(change.at) })),
];

/**
 * The events `from` up to but without `to` of a grid as a piece of their own, at their places in the bar: what stands before the
 * next bar line becomes a pickup, unless the piece ends before that line. Notes that sound on are cut where the piece ends.
 */
export const cutGrid = (grid: Grid, from: number, to: number): Grid => {
  const chosen = grid.events.slice(from, to);
  const first = beats((chosen[0] as GridEvent).at);
  const last = chosen.at(-1) as GridEvent;
  const lines = barStarts(grid);
  const bar = Math.max(
    0,
    lines.findLastIndex((line) => line.compare(first) <= 0),
  );
  const line = lines[bar] as Fraction;
  const nextLine = lines[bar + 1] ?? line.add(meterBeats(inForce(grid.meters, line), grid.beatUnit));
  const leadsOver = !first.equals(line) && beats(last.at).compare(nextLine) >= 0;
  const zero = first.compare(0) < 0 ? beats(0) : leadsOver ? nextLine : line;
  const stop = endOf(last);
  const events = chosen.map((event) => moved(cutAt(event, stop), zero.neg()));
  const pickup = zero.sub(first);
  return fillBars(
    {
      ...grid,
      pickup: pickup.compare(0) > 0 ? writeBeats(pickup) : '0',
      meters: changesFrom(grid.meters, zero),
      keys: changesFrom(grid.keys, zero),
    },
    events,
  );
};

/** The events that begin in bars `from` up to but without `to`, counted from 0; the pickup belongs to bar 0. Null where there are none. */
export const cutBars = (grid: Grid, from: number, to: number): { from: number; to: number } | null => {
  const lines = barStarts(grid);
  const start = from === 0 ? null : (lines[from] as Fraction);
  const end = lines[Math.min(to, grid.bars)] as Fraction;
  const isIn = ({ at }: GridEvent) => (!start || beats(at).compare(start) >= 0) && beats(at).compare(end) < 0;
  const first = grid.events.findIndex(isIn);
  return first < 0 ? null : { from: first, to: grid.events.findLastIndex(isIn) + 1 };
};
