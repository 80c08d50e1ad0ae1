import { beats, type Exact, type Grid } from '@isochron/core/schema';
import { bisectLeft, bisectRight, sort, union } from 'd3-array';
import { onceForEach } from '../app/once-for-each';
import { signedPlaces } from '../notation/accidentals';
import { KEY_SIGN_PX, keyChangeSigns, METER_PX } from '../notation/key-change';
import { notationScore, type ScoreSymbol } from '../notation/score';

/** What the end of a staff takes after the last note's head, and each rest or tied note that follows it, in pixels. */
export const LAST_PX = 18;
const DOT_PX = 12;
const FOLLOWING_PX = 28;

/** Where the symbols of a staff begin, and where its bars of silence begin and end, in beats, ascending. */
interface Places {
  symbols: number[];
  silences: number[];
  ends: number[];
}

const placesOf = (symbols: readonly ScoreSymbol[]): Places => {
  const [silent, others] = [true, false].map((isIt) => symbols.filter(({ isWholeBar }) => isWholeBar === isIt));
  const begins = (some: readonly ScoreSymbol[] = []) => sort(union(some.map(({ at }) => at.valueOf())));
  return {
    symbols: begins(others),
    silences: begins(silent),
    ends: sort(union((silent ?? []).map(({ at, length }) => at.add(length).valueOf()))),
  };
};

const placesIn = onceForEach((grid: Grid) => grid.staves.map((_, k) => placesOf(notationScore(grid, k + 1).flat())));

/** Room for so many symbols without a column, on the staff that has most of them; bars of silence together take one place. */
const besidePx = (grid: Grid, count: (places: Places) => readonly [symbols: number, silences: number]): number =>
  FOLLOWING_PX *
  Math.max(
    0,
    ...placesIn(grid).map((places) => {
      const [symbols, silences] = count(places);
      return symbols + Math.min(1, Math.max(0, silences));
    }),
  );

/** Room before the first column of a system: for the rests that it begins with, and what is tied into it. */
export const leadPx = (grid: Grid, startAt: Exact, firstAt: Exact): number => {
  const [start, first] = [startAt.valueOf(), firstAt.valueOf()];
  return besidePx(grid, ({ symbols, silences, ends }) => [
    bisectLeft(symbols, first) - bisectLeft(symbols, start),
    bisectRight(ends, first) - bisectLeft(silences, start),
  ]);
};

/** Room after the last column of a system: for the dot of its last note, what that is tied to, and the rests that fill its bar. */
export const tailPx = (grid: Grid, to: number, endAt: Exact): number => {
  const [last, end] = [beats(grid.events[to - 1]?.at ?? '0').valueOf(), endAt.valueOf()];
  const following = besidePx(grid, ({ symbols, silences }) => [
    bisectLeft(symbols, end) - bisectRight(symbols, last),
    bisectLeft(silences, end) - bisectRight(silences, last),
  ]);
  return LAST_PX + DOT_PX + following;
};

/** What a bar line takes between two columns, in pixels: little beside a bare head, more before an accidental, a new key or meter. */
const BARE_LINE_PX = 2;
const LINE_PX = 14;

export const barLinePx = (grid: Grid, line: Exact): number => {
  const isSigned = signedPlaces(grid).has(line.toFraction());
  const isHere = ({ at }: { at: string }) => line.equals(beats(at));
  const key = grid.keys.findIndex(isHere);
  const signs = key > 0 ? keyChangeSigns('treble', grid.keys[key]?.fifths ?? 0, grid.keys[key - 1]?.fifths ?? 0).length : 0;
  const meter = grid.meters.findIndex(isHere) > 0 ? METER_PX : 0;
  return (isSigned || signs > 0 || meter > 0 ? LINE_PX : BARE_LINE_PX) + KEY_SIGN_PX * signs + meter;
};
