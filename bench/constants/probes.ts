/**
 * What the constants of core are tried on: for each part of core a few figures, by simulated players, learners and sounds that are the
 * same every time. Run by itself it prints them as JSON.
 */
import {
  analyseRepetition,
  attackFaults,
  attackHabits,
  chance,
  labelDifferences,
  listenToRecording,
  mean,
  median,
  profileOf,
  SETTLED_OFFSET_S,
  weakLinks,
} from '@isochron/core/analysis';
import {
  beatEvenness,
  builtInPassage,
  constantTempo,
  findBeats,
  headlineBpm,
  planRepetition,
  soundInMemory,
} from '@isochron/core/material';
import { bearableDays, changedSince, firstDrill, fitForgetting, goalRange, openingsOf } from '@isochron/core/planning';
import {
  type Drill,
  dayAt,
  type NoteResult,
  type Onset,
  type Passage,
  type PracticeDay,
  type Skill,
  STEADY,
  TOLERANCE_PRESETS,
} from '@isochron/core/schema';
import {
  anyLearner,
  handsInTurn,
  INSTRUMENTS,
  inventBeats,
  LEARNERS,
  madeResults,
  practiseWeeks,
  renderPlaying,
  repetitionOf,
  simulatePlaying,
  sweepOf,
} from '@isochron/core/simulation';
import { beginDecisions, beginStrategy, breakTempo, decide, STRATEGIES, tempoCurve, triedOf } from '@isochron/core/strategy';
import { pairs } from '../onsets/score';
import { settle } from '../strategies/settling';

/** Figures by their names. A figure that cannot be had is NaN. */
type Figures = Record<string, number>;

const RATE_HZ = 44_100;
const times = <One>(count: number, of: (k: number) => One): One[] => Array.from({ length: count }, (_, k) => of(k));
const share = (all: readonly unknown[], some: number): number => (100 * some) / Math.max(1, all.length);
const drill = (): Drill => firstDrill(builtInPassage('five-steps') as Passage);

/** Three instruments in noise: how many notes are found and how many are none, in %, and how far off they are, in ms. */
const hearing = (): Figures => {
  const errorsMs: number[] = [];
  let [found, asked, heard] = [0, 0, 0];
  for (const [k, instrument] of INSTRUMENTS.entries()) {
    const { grid } = drill();
    const tempo = constantTempo(88 + 30 * k);
    const plan = planRepetition({ drill: drill(), tempo, startS: 1 });
    const skill: Skill = { ...STEADY, levelSpreadDb: 5, missedShare: 0.05, extraShare: 0.03, doubledShare: { '3': 1, '6': 1 } };
    const played = simulatePlaying(plan.notes, skill, tempo, 5 + k);
    const lengthS = (plan.notes.at(-1)?.timeS ?? 0) + 1.5;
    const sound = renderPlaying({ played, grid, tempo, instrument, sampleRateHz: RATE_HZ, lengthS, seed: 3, noiseDb: -52 });
    const truthS = played
      .filter((note, n) => n === 0 || note.timeS - (played[n - 1]?.timeS ?? 0) > 0.035)
      .map(({ timeS }) => timeS);
    const onsets = listenToRecording(soundInMemory(sound, RATE_HZ), { profile: profileOf(instrument.id), grid });
    const near = pairs(
      truthS,
      onsets.map(({ timeS }) => timeS),
      0,
      0.05,
    );
    found += near.length;
    asked += truthS.length;
    heard += onsets.length;
    errorsMs.push(...near.map(([truth, told]) => 1000 * Math.abs(told - truth)));
  }
  return {
    'notes found, %': (100 * found) / asked,
    'onsets that are notes, %': (100 * found) / heard,
    'off by, ms': median(errorsMs),
  };
};

/** Players as they come: what is said of their repetitions, in % of them. */
const PLAYERS: Record<string, Partial<Skill>> = {
  steady: {},
  uneven: { spreadMs: 11 },
  stumbling: { spreadMs: 7, missedShare: 0.06, extraShare: 0.06 },
  late: { placementMs: 90 },
  dragging: { driftPct: 2 },
  doubling: { doubledShare: { '2': 0.9, '9': 0.9 } },
};
const judged = (): Figures => {
  const figures: Figures = {};
  for (const [name, skill] of Object.entries(PLAYERS)) {
    const rows = times(30, (seed) => {
      const plan = planRepetition({ drill: drill(), tempo: constantTempo(96), startS: 2 });
      const played = simulatePlaying(plan.notes, { ...STEADY, ...skill }, constantTempo(96), 40 + seed);
      // One in three stops on the way.
      const stops = name === 'stumbling' && seed % 3 === 0;
      const onsets: Onset[] = played.map(({ timeS, levelDb }, k) => ({ timeS: timeS + (stops && k > 8 ? 1.1 : 0), levelDb }));
      return analyseRepetition(onsets, {
        drill: drill(),
        plan,
        tolerance: TOLERANCE_PRESETS.secure,
        profile: profileOf('tap'),
        latencyS: null,
        offset: { nearS: 0, reachS: SETTLED_OFFSET_S, farS: 0.3 },
        gap: false,
      });
    });
    const outcomes = rows.map(({ verdict }) => verdict.outcome);
    figures[`${name}: clean, %`] = share(rows, outcomes.filter((one) => one === 'clean').length);
    figures[`${name}: broken, %`] = share(rows, outcomes.filter((one) => one === 'broken').length);
    figures[`${name}: spread, ms`] = median(rows.flatMap(({ measures }) => measures.spreadMs?.value ?? []));
    figures[`${name}: faults of attack`] = mean(rows.map(({ notes }) => attackFaults(notes, () => false).length));
  }
  return figures;
};

/** How often a take of simulated repetitions is told something, with nothing planted and with something, in %. */
const findings = (): Figures => {
  const { grid } = drill();
  const count = grid.events.length;
  const habitMs = times(count, (k) => (k === 6 ? 15 : 0));
  const hands = handsInTurn(grid.events);
  const lateHand = times(count, (k) => (k % 2 ? 8 : 0));
  const told = (isSo: (seed: number) => boolean) => {
    const seeds = times(60, (k) => k + 1);
    return share(seeds, seeds.filter(isSo).length);
  };
  const player = (seed: number, habit: readonly number[] = []) =>
    madeResults({ repetitions: 10, notes: count, unsteadinessMs: 8, seed, habitMs: habit });
  const stands = (rows: NoteResult[][]) => weakLinks(rows).some((link) => link.standsOut);
  return {
    'spot named, none there': told((seed) => stands(player(seed))),
    'spot named, 15 ms there': told((seed) => stands(player(seed, habitMs))),
    'hand named, none late': told((seed) => labelDifferences(player(seed), hands).some((one) => one.biasStandsOut)),
    'hand named, 8 ms late': told((seed) => labelDifferences(player(seed, lateHand), hands).some((one) => one.biasStandsOut)),
    'attack named, none there': told((seed) => attackHabits(player(seed), grid.events).length > 0),
  };
};

/** Where each strategy leads a learner: repetitions to the edge, clean there in %, next start as % of the edge. */
const strategies = (): Figures => {
  const figures: Figures = {};
  for (const { id } of STRATEGIES) {
    if (id === 'free') continue;
    const rows = times(3, (k) =>
      settle({
        strategyId: id,
        learner: LEARNERS[k % LEARNERS.length] as (typeof LEARNERS)[number],
        goalBpm: 140,
        startBpm: 60,
        repetitions: 36,
        seed: k + 1,
      }),
    );
    figures[`${id}: repetitions to the edge`] = mean(
      rows.map(({ reachedAfter, repetitions }) => reachedAfter ?? 2 * repetitions),
    );
    figures[`${id}: clean there, %`] = 100 * mean(rows.flatMap(({ cleanShare }) => cleanShare ?? []));
    figures[`${id}: next start, % of the edge`] = 100 * mean(rows.map(({ nextStartShare }) => nextStartShare));
  }
  return figures;
};

/** What two dozen repetitions tell of learners: easy and edge tempo and how wide they lie, and where sweeps break. */
const curves = (): Figures => {
  const still = { gain: 0, tires: 0, tenseAbove: 9, forgets: 0 };
  const told = times(4, (k) => {
    const learner = { ...anyLearner(k + 1), ...still };
    let decisions = beginDecisions(beginStrategy('adaptive', null));
    let bpm = Math.round(0.7 * learner.easyBpm);
    const tried = times(24, (one) => {
      const played = repetitionOf(learner, bpm, 1000 * k + one);
      const next = decide(decisions, played, { goalBpm: 2 * learner.easyBpm, startBpm: 40 });
      decisions = next.decisions;
      bpm = headlineBpm(next.decision.tempo);
      return triedOf(played);
    });
    const curve = tempoCurve(tried);
    return { easy: curve?.easy() ?? null, edge: curve?.edge() ?? null };
  });
  const swept = (growth: number) =>
    times(40, (k) =>
      breakTempo(
        sweepOf(
          { ...anyLearner(1), ...still, easyBpm: growth > 1 ? 90 : 400, growth, restMs: 3, slips: 0.02, mood: 0.2 },
          95,
          7 * k + 3,
        ).swept,
      ),
    );
  const breaks = swept(3);
  const none = swept(1);
  const known = told.flatMap(({ edge }) => edge ?? []);
  return {
    'easy tempos told, %': share(told, told.filter(({ easy }) => easy).length),
    'edge tempos told, %': share(told, known.length),
    'edge, bpm': mean(known.map(({ bpm }) => bpm)),
    'edge, width in %': 100 * mean(known.map(({ bpm, low, high }) => (high - low) / bpm)),
    'breaks told, %': share(breaks, breaks.filter(Boolean).length),
    'breaks told, none there, %': share(none, none.filter(Boolean).length),
  };
};

/** Half a year of days: when goals are expected, how fast is forgotten, what changed. */
const planning = (): Figures => {
  const { normal, uniform } = chance(7);
  const days = times(160, (day) => ({
    day: dayAt(20_500 + day),
    bestCleanBpm: Math.round((70 + 12 * Math.log1p(day / 9)) * Math.exp(0.025 * normal())),
  })).filter(() => uniform() < 0.6);
  const last = days.at(-1)?.day ?? '';
  const ranges = [100, 108, 116].map((goal) => goalRange(days.slice(0, 60), goal, last));
  const practised = times(120, (day): PracticeDay => {
    const away = day % 3 === 0;
    return {
      passageId: 'p',
      variantId: 'first',
      sectionId: 'whole',
      day: dayAt(20_500 + 2 * day + (day % 3)),
      takes: 1,
      repetitions: 9,
      clean: 5,
      playedS: 300,
      fastS: 100,
      withoutClickS: 0,
      openBpm: 80 + day / 4,
      openClean: away ? uniform() < 0.4 : uniform() < 0.8,
      bestCleanBpm: 84 + day / 4,
    };
  });
  const forgetting = fitForgetting(openingsOf(practised));
  const change = changedSince(days, days[40]?.day ?? '', last);
  const weeks = practiseWeeks({ strategyId: 'half-speed-climb', learner: anyLearner(3), goalBpm: 130, weeks: 6, seed: 4 });
  return {
    'goals with a range': ranges.filter(({ to }) => to !== null).length,
    'first day of a range, from today':
      mean(ranges.flatMap(({ from }) => (from ? [Date.parse(from) - Date.parse(last)] : []))) / 86_400_000,
    'width of a range, days':
      mean(ranges.flatMap(({ from, to }) => (from && to ? [Date.parse(to) - Date.parse(from)] : []))) / 86_400_000,
    'rate of forgetting': forgetting.rate,
    'comes back after, days': bearableDays(forgetting),
    'change that is told, bpm': Number(change.values.bpm ?? 0),
    'six weeks: clean, %': 100 * weeks.cleanShare,
    'six weeks: start, % of easy': 100 * weeks.startShare,
    'six weeks: reached, % of the edge': 100 * weeks.reachedShare,
  };
};

/** Beats in invented onsets that drift and drop out, in % found within 40 ms. */
const beats = (): Figures => {
  const rows = times(6, (k) => {
    const { uniform, normal } = chance(70 + k);
    const truth = inventBeats({ bpm: 60 + 22 * k, firstS: 0.8, lengthS: 40, share: (timeS) => 1 + 0.05 * Math.sin(timeS / 3) });
    const onsets = truth.flatMap((timeS, n): Onset[] => [
      ...(uniform() < 0.85 ? [{ timeS: timeS + 0.006 * normal(), levelDb: -14 }] : []),
      ...(uniform() < 0.6 ? [{ timeS: (timeS + (truth[n + 1] ?? timeS + 0.5)) / 2 + 0.006 * normal(), levelDb: -22 }] : []),
    ]);
    const { timesS } = findBeats(onsets, 40);
    return {
      f: (200 * pairs(truth, timesS, 0, 0.04).length) / Math.max(1, truth.length + timesS.length),
      off: beatEvenness(timesS)?.unsteadinessMs ?? Number.NaN,
    };
  });
  return { 'beats found, %': mean(rows.map(({ f }) => f)), 'beats off an even pulse, ms': mean(rows.map(({ off }) => off)) };
};

export const PROBES = { hearing, judged, findings, strategies, curves, planning, beats };

// The probes that are named as arguments; all where none is.
if (process.argv[1]?.includes('probes')) {
  const named = Object.entries(PROBES).filter(([name]) => process.argv.length < 3 || process.argv.includes(name));
  console.log(JSON.stringify(Object.fromEntries(named.map(([name, probe]) => [name, probe()]))));
}
