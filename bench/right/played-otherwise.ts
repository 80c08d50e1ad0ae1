/** What was played instead of what was asked, told from playing that is only bad. */
import type { ExpectedNote } from '@isochron/core/material';
import { barStarts, type Drill } from '@isochron/core/schema';
import { playerOf } from '../players/players';
import { chanceOf } from '../players/random';
import { hearTaps, planOf } from './heard';
import { RHYTHMS } from './rhythms';
import { pct, shareOf, type Table } from './table';

const NOTES = 24;
const BPM = 80;
const UNSTEADY_SHARE = 0.05;

/** When the notes sound that were really played. `draw` is between 0 and 1. */
type Playing = (notes: readonly ExpectedNote[], barS: number, uniform: () => number) => number[];

const firstOf = (notes: readonly ExpectedNote[]): number => notes[0]?.timeS ?? 0;
const times = (notes: readonly ExpectedNote[]): number[] => notes.map(({ timeS }) => timeS);
const stretched = (notes: readonly ExpectedNote[], scale: number): number[] =>
  times(notes).map((timeS) => firstOf(notes) + scale * (timeS - firstOf(notes)));

const OTHERWISE: Record<string, Playing> = {
  'half-tempo': (notes) => stretched(notes, 2),
  'double-tempo': (notes) => stretched(notes, 0.5),
  'first-bar': (notes, barS) => times(notes).filter((timeS) => timeS >= firstOf(notes) + barS - 0.01),
  'first-bar, begun there': (notes, barS) => times(notes).map((timeS) => timeS + barS),
  stumble: (notes, _bar, uniform) => {
    const at = 2 + Math.floor(uniform() * (notes.length / 2));
    const stepS = notes[at]?.intervalS ?? 0;
    return [...times(notes.slice(0, at + 1)), ...times(notes.slice(at)).map((timeS) => timeS + stepS)];
  },
};

const ONLY_BAD: Record<string, Playing> = {
  'one in ten missed': (notes, _bar, uniform) => times(notes).filter(() => uniform() > 0.1),
  'one in three missed': (notes, _bar, uniform) => times(notes).filter(() => uniform() > 0.33),
  'one in five added': (notes, _bar, uniform) =>
    notes.flatMap(({ timeS, intervalS }) => (uniform() < 0.2 ? [timeS, timeS + 0.5 * intervalS] : [timeS])),
  'drags by 8 %': (notes) => stretched(notes, 1.08),
  'stops half way': (notes) => times(notes.slice(0, notes.length / 2)),
  'stops for 1 s and goes on': (notes) => notes.map(({ timeS }, k) => (k < notes.length / 2 ? timeS : timeS + 1)),
  'at random': (notes, _bar, uniform) => {
    const endS = notes.at(-1)?.timeS ?? 0;
    return notes.map(() => firstOf(notes) + uniform() * (endS - firstOf(notes)));
  },
};

const saidOf = (drill: Drill, playing: Playing, seed: number, bpm: number): string => {
  const { notes } = planOf(drill, bpm);
  const beatS = 60 / bpm;
  const barS = (barStarts(drill.grid)[1]?.valueOf() ?? 0) * beatS;
  const { uniform } = chanceOf(seed);
  const played = playing(notes, barS, uniform);
  const sdMs = played.map(() => 1000 * UNSTEADY_SHARE * Math.min(...notes.map((note) => note.intervalS)));
  const deviations = playerOf('two-level').deviationsMs({ timesS: played, sdMs, seed: seed + 5000 });
  const onsetsS = played.map((timeS, k) => timeS + (deviations[k] as number) / 1000);
  const { verdict } = hearTaps({ drill, bpm, onsetsS }).analysed;
  if (process.env.SHOW) console.log(seed, JSON.stringify(verdict));
  return verdict.outcome === 'not-judged' || verdict.reason === 'stumble' ? verdict.reason : verdict.outcome;
};

const NAMED = ['half-tempo', 'double-tempo', 'first-bar', 'stumble', 'played-on'];

export const playedOtherwiseTables = (count = 25): Table[] => {
  const head = ['', ...RHYTHMS.map(({ name }) => name)];
  const rowsOf = (playings: Record<string, Playing>, isSo: (said: string, kind: string) => boolean) =>
    Object.entries(playings).map(([kind, playing]) => [
      kind,
      ...RHYTHMS.map((rhythm) => {
        const drill = rhythm.drill(NOTES);
        return pct(shareOf(count, (seed) => isSo(saidOf(drill, playing, seed * 31, BPM), kind)));
      }),
    ]);
  return [
    {
      title: 'Played otherwise, and said as that',
      about: `${NOTES} notes tapped at ${BPM}, unsteady by ${100 * UNSTEADY_SHARE} % of the shortest step; ${count} each. Share that is said for what it is. In an even run without pitch a stumble cannot be told from an added note at the end.`,
      head,
      rows: rowsOf(OTHERWISE, (said, kind) => kind.startsWith(said)),
    },
    {
      title: 'Only bad, and never said to be something else',
      about: 'Share in which one of the above is said of playing that is none of it.',
      head,
      rows: rowsOf(ONLY_BAD, (said) => NAMED.includes(said)),
    },
  ];
};
