/** Whether what is said over several repetitions can be contradicted by the deviations that it is said of: by arithmetic of its own. */
import { acrossRepetitions, findingOf } from '@isochron/core/analysis';
import { describeReason } from '@isochron/core/words';
import { PLAYERS } from '../players/players';
import { chanceOf } from '../players/random';
import { type Played, takeOf } from './findings';
import type { Table } from './table';

type Take = ReturnType<typeof takeOf>;
type Values = Record<string, number | string | undefined>;

const mean = (values: readonly number[]): number => values.reduce((sum, one) => sum + one, 0) / values.length;
const sd = (values: readonly number[]): number => {
  const middle = mean(values);
  return Math.sqrt(values.reduce((sum, one) => sum + (one - middle) ** 2, 0) / (values.length - 1));
};

/** Deviations by repetition and note, each repetition about its own line. */
const rowsOf = ({ repetitions }: Take): number[][] =>
  repetitions.map(({ notes }) => {
    const values = notes.map(({ deviationMs }) => deviationMs as number);
    const middle = (values.length - 1) / 2;
    const squares = values.reduce((sum, _, k) => sum + (k - middle) ** 2, 0);
    const slope = values.reduce((sum, one, k) => sum + one * (k - middle), 0) / squares;
    const level = mean(values);
    return values.map((one, k) => one - level - slope * (k - middle));
  });

/** How much later some notes came than the others, over all repetitions. */
const laterMs = (take: Take, isOne: (k: number) => boolean): number => {
  const rows = rowsOf(take);
  return (
    mean(rows.flatMap((row) => row.filter((_, k) => isOne(k)))) - mean(rows.flatMap((row) => row.filter((_, k) => !isOne(k))))
  );
};

/** What is said has the sign of what is, and half to twice its size: a line through all notes takes a little of either away. */
const agrees = (saidMs: number, isMs: number): boolean => saidMs * isMs > 0 && Math.abs(Math.log2(saidMs / isMs)) <= 1;

/** What each sentence claims. */
const CLAIMS: Record<string, (values: Values, take: Take) => boolean> = {
  'finding-step': ({ note, ms }, take) => {
    const at = Number(note);
    return agrees(Number(ms), mean(rowsOf(take).map((row) => (row[at] as number) - (row[at - 1] as number))));
  },
  'finding-label-timing': ({ kind, first, ms }, take) => {
    const marks = take.grid.events.map(({ notes }) => (notes[0]?.marks as Record<string, unknown> | undefined)?.[String(kind)]);
    return (
      !marks.includes(first) ||
      agrees(
        Number(ms),
        laterMs(take, (k) => marks[k] === first),
      )
    );
  },
  'finding-place': ({ place, of, ms }, take) =>
    agrees(
      Number(ms),
      laterMs(take, (k) => k % Number(of) === Number(place) - 1),
    ),
  'finding-scatter': ({ note, ms, others }, take) => {
    const rows = rowsOf(take);
    const scatter = (rows[0] ?? []).map((_, k) => sd(rows.map((row) => row[k] as number)));
    const own = scatter[Number(note) - 1] as number;
    return own === Math.max(...scatter) && Number(ms) > Number(others);
  },
  'finding-habit': ({ sharePct }) => Number(sharePct) >= 40 && Number(sharePct) <= 100,
  'finding-control': ({ sharePct, ms }) => Number(sharePct) >= 0 && Number(sharePct) <= 100 && Number(ms) >= 0,
};

/** Nothing, or one thing of any size: a late note, a step that stays, a limp, a rush into the beat, a late finger or hand, a note that scatters. */
const anyPlayed = (seed: number): Played => {
  const { uniform } = chanceOf(seed, 88);
  const pick = <Value>(values: readonly Value[]): Value => values[Math.floor(uniform() * values.length)] as Value;
  const notes = pick([8, 16, 24, 32]);
  const at = Math.floor(uniform() * notes);
  const ms = 40 * (uniform() - 0.5);
  const habits: Played['habitMs'][] = [
    () => 0,
    (k) => (k === at ? ms : 0),
    (k) => (k >= at ? ms : 0),
    (k) => (k % 2 ? ms : 0),
    (k) => (k % 4 === 0 ? ms : 0),
    (k) => ([0, 7].includes(k % 8) ? ms : 0),
    (k) => (k % 3) * ms,
  ];
  const scatters = uniform() < 0.15;
  return {
    notes,
    repetitions: pick([2, 3, 5, 8, 12]),
    player: pick(PLAYERS),
    habitMs: pick(habits) as NonNullable<Played['habitMs']>,
    more: (k) => (scatters && k === at ? 4 : 1),
    seed,
    marks: pick(['fingers', 'hands']),
  };
};

export const sentenceTable = (times = 10_000): Table => {
  const seen = new Map<string, { said: number; contradicted: number; outside: number; like: string }>();
  for (let seed = 1; seed <= times; seed += 1) {
    const take = takeOf(anyPlayed(seed));
    const reason = findingOf(acrossRepetitions(take, false));
    const values = reason.values as Values;
    const one = seen.get(reason.code) ?? { said: 0, contradicted: 0, outside: 0, like: '' };
    const [low, high, ms] = [values.low, values.high, values.ms].map((value) =>
      value === undefined ? Number.NaN : Number(value),
    );
    const isOutside = ms !== undefined && low !== undefined && high !== undefined && (ms < low || ms > high);
    const isRight = CLAIMS[reason.code]?.(values, take) ?? true;
    seen.set(reason.code, {
      said: one.said + 1,
      contradicted: one.contradicted + (isRight ? 0 : 1),
      outside: one.outside + (isOutside ? 1 : 0),
      like: one.like || `${isRight ? '' : `seed ${seed}: `}${describeReason(reason, { noteNaming: 'british' })}`,
    });
  }
  return {
    title: 'Sentences and their numbers',
    about: `${times} takes of any player, with nothing or one thing planted. Contradicted: the sign is another, or the size not half to twice, by arithmetic over the same deviations. Wanted: none.`,
    head: ['sentence', 'said', 'contradicted', 'value outside its own range', 'the first of them'],
    rows: [...seen]
      .sort(([a], [b]) => a.localeCompare(b))
      .map(([code, { said, contradicted, outside, like }]) => [code, `${said}`, `${contradicted}`, `${outside}`, like]),
  };
};
