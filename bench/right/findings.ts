/** What is found over several repetitions: nothing where there is nothing, and the right thing where there is something. */
import { acrossRepetitions, findingOf } from '@isochron/core/analysis';
import { firstDrill } from '@isochron/core/planning';
import type { Drill, NoteResult, Repetition } from '@isochron/core/schema';
import { passageOfScore, readText } from '@isochron/core/score';
import { PLAYERS, type Player, playerOf } from '../players/players';
import { chanceOf } from '../players/random';
import { pct, type Table } from './table';

const STEP_MS = 125;
const UNSTEADY_MS = 8;

/** An even run with fingers 1 to 5 going up and down, hands in turn where asked. */
const runOf = (notes: number, marks: 'fingers' | 'hands'): Drill => {
  const steps = ['C4', 'D4', 'E4', 'F4', 'G4', 'F4', 'E4', 'D4'];
  const fingers = [1, 2, 3, 4, 5, 4, 3, 2];
  const bar = `${steps.map((step) => `${step}/16`).join(' ')} |`;
  const bars = Array.from({ length: notes / 8 }, () => bar).join('\n');
  const drill = firstDrill(passageOfScore(readText(`meter: 2/4\n${bars}`), 'typed').passage);
  const events = drill.grid.events.map((event, k) => ({
    ...event,
    notes: event.notes.map((note) => ({
      ...note,
      marks: marks === 'hands' ? { hand: k % 2 ? ('left' as const) : ('right' as const) } : { finger: String(fingers[k % 8]) },
    })),
  }));
  return { ...drill, grid: { ...drill.grid, events } };
};

const GRIDS = new Map<string, Drill['grid']>();
const gridFor = (notes: number, marks: 'fingers' | 'hands'): Drill['grid'] => {
  const key = `${notes}/${marks}`;
  const grid = GRIDS.get(key) ?? runOf(notes, marks).grid;
  GRIDS.set(key, grid);
  return grid;
};

/** What is played, by whom, and what is planted in it. */
export interface Played {
  notes: number;
  repetitions: number;
  player: Player;
  /** What is the same every time, in ms, by note. */
  habitMs?: (k: number) => number;
  /** How much more unsteady a note is than the others. */
  more?: (k: number) => number;
  /** What a repetition has of its own, in ms, by note. */
  ownMs?: (k: number, uniform: () => number) => number;
  seed: number;
  marks?: 'fingers' | 'hands';
}

/** Repetitions of a run of sixteenths with what is planted in them, as if they had been measured. */
export const takeOf = ({
  notes,
  repetitions,
  player,
  habitMs = () => 0,
  more = () => 1,
  ownMs = () => 0,
  seed,
  marks = 'fingers',
}: Played) => {
  const grid = gridFor(notes, marks);
  const { uniform } = chanceOf(seed, 424_243);
  const timesS = grid.events.map((_, k) => (k * STEP_MS) / 1000);
  const rows = Array.from({ length: repetitions }, (_, r) => {
    const sdMs = timesS.map((_, k) => UNSTEADY_MS * more(k));
    const noise = player.deviationsMs({ timesS, sdMs, seed: seed * 1009 + r * 31 });
    const results = timesS.map((expectedS, index): NoteResult => {
      const deviationMs = 15 + (noise[index] as number) + habitMs(index) + ownMs(index, uniform);
      return { index, expectedS, onsetS: expectedS + deviationMs / 1000, deviationMs, levelDb: -12 };
    });
    return {
      index: r,
      drill: 0,
      tempo: { kind: 'constant', bpm: 120 },
      notes: results,
      extras: [],
      verdict: { outcome: 'close' },
      measures: {},
    } as unknown as Repetition;
  });
  return { grid, repetitions: rows };
};

const findingFor = (played: Played) => findingOf(acrossRepetitions(takeOf(played), false));

/** Findings that tell of nothing in particular. */
const NOTHING = ['finding-control', 'finding-too-few', 'finding-none'];

/** 2.5 times as unsteady at every third note. */
const UNEQUAL: Player = {
  id: 'unequal',
  about: 'two and a half times as unsteady at every third note',
  deviationsMs: ({ sdMs, timesS, seed }) =>
    playerOf('independent').deviationsMs({ timesS, sdMs: sdMs.map((sd, k) => (k % 3 === 0 ? 2.5 * sd : sd)), seed }),
};
const NULLS = [...PLAYERS.filter(({ id }) => ['independent', 'ar+', 'ar-', 'pink', 't3'].includes(id)), UNEQUAL];

const COUNTS = [3, 5, 10, 20, 40];

const told = (count: number, isSo: (seed: number) => boolean): string => {
  let found = 0;
  for (let seed = 1; seed <= count; seed += 1) if (isSo(seed)) found += 1;
  return pct(found / count);
};

type Finding = ReturnType<typeof findingFor>;
const is = (finding: Finding, code: string, values: Record<string, unknown> = {}): boolean =>
  finding.code === code && Object.entries(values).every(([key, value]) => String(finding.values[key]) === String(value));

/** What is planted, and how it must be said. */
const PLANTED: {
  name: string;
  played: Omit<Played, 'repetitions' | 'seed' | 'notes'>;
  isRight(finding: Finding): boolean;
  truthMs?: number;
}[] = [
  {
    name: 'left hand 10 ms late',
    truthMs: 10,
    played: { player: playerOf('independent'), marks: 'hands', habitMs: (k) => (k % 2 ? 10 : 0) },
    isRight: (one) => is(one, 'finding-label-timing', { kind: 'hand' }),
  },
  {
    name: 'fourth finger 15 ms late',
    truthMs: 15,
    played: { player: playerOf('independent'), habitMs: (k) => (k % 8 === 3 || k % 8 === 5 ? 15 : 0) },
    isRight: (one) =>
      one.code === 'finding-label-timing' &&
      one.values.kind === 'finger' &&
      [one.values.first, one.values.second].includes('4'),
  },
  {
    name: 'a limp: every second note 12 ms late',
    truthMs: 12,
    played: { player: playerOf('independent'), habitMs: (k) => (k % 2 ? 12 : 0) },
    isRight: (one) => is(one, 'finding-place') || (is(one, 'finding-label-timing') && one.values.kind !== 'finger'),
  },
  {
    name: 'a rush into every beat: the last of four 12 ms early',
    played: { player: playerOf('independent'), habitMs: (k) => (k % 4 === 3 ? -12 : 0) },
    isRight: (one) => is(one, 'finding-place', { place: 4, of: 4 }),
  },
  {
    name: 'note 7 is 15 ms late',
    truthMs: 15,
    played: { player: playerOf('independent'), habitMs: (k) => (k === 6 ? 15 : 0) },
    isRight: (one) => is(one, 'finding-step', { note: 6 }),
  },
  {
    name: 'note 7 scatters four times as much',
    played: { player: playerOf('independent'), more: (k) => (k === 6 ? 4 : 1) },
    isRight: (one) => is(one, 'finding-scatter', { note: 7 }),
  },
];

const NOT_A_HABIT: { name: string; played: Omit<Played, 'repetitions' | 'seed' | 'notes'> }[] = [
  { name: 'a drag of 1 %', played: { player: playerOf('independent'), habitMs: (k) => 0.01 * k * STEP_MS } },
  {
    name: 'random slips of 25 ms',
    played: { player: playerOf('independent'), ownMs: (_, uniform) => (uniform() < 0.06 ? 25 : 0) },
  },
  {
    name: 'note 7 is 4 ms late: too little to matter',
    played: { player: playerOf('independent'), habitMs: (k) => (k === 6 ? 4 : 0) },
  },
];

export const findingTables = (count = 300): Table[] => {
  const head = ['', ...COUNTS.map((repetitions) => `${repetitions} repetitions`)];
  return [
    {
      title: 'Found where there is nothing',
      about: `Share of takes that are told of anything, ${count} each, by the kind of noise: 8 / 16 / 64 notes. Wanted: 5 % and less.`,
      head,
      rows: NULLS.map((player) => [
        player.about,
        ...COUNTS.map((repetitions) =>
          [8, 16, 64]
            .map((notes) =>
              told(
                notes === 64 ? count / 3 : count,
                (seed) => !NOTHING.includes(findingFor({ notes, repetitions, player, seed }).code),
              ),
            )
            .join(' / '),
        ),
      ]),
    },
    {
      title: 'No habit, and none told',
      about: 'Share of takes of 16 notes that are told of a habit or a spot. Wanted: 5 % and less.',
      head,
      rows: NOT_A_HABIT.map(({ name, played }) => [
        name,
        ...COUNTS.map((repetitions) =>
          told(count, (seed) => !NOTHING.includes(findingFor({ ...played, notes: 16, repetitions, seed: seed + 7 }).code)),
        ),
      ]),
    },
    {
      title: 'Found for what it is',
      about: `Share of takes of 16 notes, unsteady by ${UNSTEADY_MS} ms, that are told the right finding. More repetitions must not make it wrong.`,
      head,
      rows: PLANTED.map(({ name, played, isRight }) => [
        name,
        ...COUNTS.map((repetitions) =>
          told(count, (seed) => isRight(findingFor({ ...played, notes: 16, repetitions, seed: seed + 99 }))),
        ),
      ]),
    },
    {
      title: 'The interval that is said with a finding',
      about: 'Share of the right findings whose 95 % interval holds what was planted.',
      head,
      rows: PLANTED.flatMap(({ name, played, isRight, truthMs }) =>
        truthMs === undefined
          ? []
          : [
              [
                name,
                ...COUNTS.map((repetitions) => {
                  const right = Array.from({ length: count }, (_, k) =>
                    findingFor({ ...played, notes: 16, repetitions, seed: k + 500 }),
                  ).filter(isRight);
                  const holds = right.filter(({ values }) => {
                    const ends = [Number(values.low), Number(values.high)].map(Math.abs);
                    return Math.min(...ends) <= truthMs && truthMs <= Math.max(...ends);
                  });
                  return right.length < count / 10 ? '–' : pct(holds.length / right.length);
                }),
              ],
            ],
      ),
    },
  ];
};
