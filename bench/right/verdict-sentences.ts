/** Whether what is said of one repetition can be contradicted by what was really played: by arithmetic of its own over the times played. */
import { analyseRepetition, profileOf, toleranceWindowMs } from '@isochron/core/analysis';
import type { ExpectedNote } from '@isochron/core/material';
import { TOLERANCE_PRESETS } from '@isochron/core/schema';
import { describeReason } from '@isochron/core/words';
import { PLAYERS } from '../players/players';
import { chanceOf } from '../players/random';
import { planOf, settledAt } from './heard';
import { RHYTHMS } from './rhythms';
import type { Table } from './table';

type Values = Record<string, number | undefined>;

const mean = (values: readonly number[]): number => values.reduce((sum, one) => sum + one, 0) / values.length;
const sd = (values: readonly number[]): number => {
  const middle = mean(values);
  return Math.sqrt(values.reduce((sum, one) => sum + (one - middle) ** 2, 0) / (values.length - 1));
};

/** What was really played: of each expected note when it sounded, or null; and what sounded besides. */
interface Truth {
  notes: readonly ExpectedNote[];
  soundedS: readonly (number | null)[];
  addedS: readonly number[];
  windowsMs: readonly number[];
  /** How late everything comes: the latency. */
  lateS: number;
  kind: string;
}

const deviationsOf = ({ notes, soundedS }: Truth): { at: number; ms: number; timeS: number }[] =>
  notes.flatMap(({ timeS }, at) => {
    const sounded = soundedS[at];
    return sounded === null || sounded === undefined ? [] : [{ at, ms: 1000 * (sounded - timeS), timeS }];
  });

/** What sounds closer together than this, in seconds, may be one note struck twice. */
const ONE_S = 0.05;

/** Who pauses on the way is this much late at the end, in seconds, and has played the notes all the same. */
const PAUSE_S = 0.5;

/**
 * How many notes too few sounded while the passage lasted; negative for too many. What sounds beyond an end of it may belong to either side, and
 * so may the second of two close together: that makes it two numbers.
 */
const tooFew = ({ notes, soundedS, addedS, lateS }: Truth): { least: number; most: number } => {
  const [first, last] = [notes[0] as ExpectedNote, notes.at(-1) as ExpectedNote];
  const sounds = [...soundedS.flatMap((one) => one ?? []), ...addedS].sort((a, b) => a - b);
  const within = (steps: number, moreS = 0) =>
    sounds.filter(
      (timeS) =>
        timeS > first.timeS + lateS - steps * first.intervalS && timeS < last.timeS + lateS + steps * last.intervalS + moreS,
    );
  const distinct = within(0.25).filter((timeS, k, all) => k === 0 || timeS - (all[k - 1] as number) > ONE_S);
  return { least: notes.length - within(1.2, PAUSE_S).length, most: notes.length - distinct.length };
};
const isTooFew = (truth: Truth, said: number): boolean => {
  const { least, most } = tooFew(truth);
  return said >= least && said <= most;
};

/** What fell behind, in % of the time that passed: the least squares line. */
const slopePct = (truth: Truth): number => {
  const own = deviationsOf(truth);
  const [t, d] = [mean(own.map(({ timeS }) => timeS)), mean(own.map(({ ms }) => ms))];
  const squares = own.reduce((sum, { timeS }) => sum + (timeS - t) ** 2, 0);
  return own.reduce((sum, { timeS, ms }) => sum + (timeS - t) * (ms - d), 0) / squares / 10;
};

const stepRatios = ({ notes, soundedS }: Truth): number[] =>
  notes.slice(1).flatMap(({ timeS }, k) => {
    const [from, to] = [soundedS[k], soundedS[k + 1]];
    const before = notes[k] as ExpectedNote;
    return from === null || to === null || from === undefined || to === undefined ? [] : [(to - from) / (timeS - before.timeS)];
  });

/** The sign that is, and half to twice the size. */
const agrees = (said: number, is: number): boolean => said * is > 0 && Math.abs(Math.log2(said / is)) <= 1;
const isAbout = (said: number, is: number): boolean => Math.abs(Math.log2(said / is)) <= 1;

/** What each sentence claims of what was played. */
const CLAIMS: Record<string, (values: Values, truth: Truth) => boolean> = {
  none: (_, truth) => isTooFew(truth, 0) && sd(deviationsOf(truth).map(({ ms }) => ms)) < Math.max(...truth.windowsMs),
  notes: ({ missed = 0, extra = 0 }, truth) => isTooFew(truth, missed - extra),
  broken: ({ count = 0, of }, truth) =>
    of === truth.notes.length && count > 1 && count >= Math.min(...Object.values(tooFew(truth)).map(Math.abs)),
  accuracy: ({ inside = 0, of }, truth) => {
    const own = deviationsOf(truth);
    const ordered = own.map(({ ms }) => ms).sort((a, b) => a - b);
    const within = (middle: number) =>
      own.filter(({ at, ms }) => Math.abs(ms - middle) <= (truth.windowsMs[at] as number)).length;
    const [low, high] = [ordered[0] as number, ordered.at(-1) as number];
    const counts = [mean(ordered), ...Array.from({ length: 101 }, (_, k) => low + ((high - low) * k) / 100)].map(within);
    return of === truth.notes.length && inside >= Math.min(...counts) - 1 && inside <= Math.max(...counts) + 1;
  },
  spread: ({ ms = 0, limit = 0, times }, truth) =>
    isAbout(ms, sd(deviationsOf(truth).map((one) => one.ms))) && (times === undefined ? ms > limit : times > 1),
  unevenness: ({ pct = 0, limit = 0, times }, truth) =>
    isAbout(pct, 100 * sd(stepRatios(truth))) && (times === undefined ? pct > limit : times > 1),
  drift: ({ pct = 0 }, truth) => agrees(pct, slopePct(truth)),
  jump: ({ note = 0, ms = 0 }, truth) => {
    const own = deviationsOf(truth);
    const side = (isAfter: boolean) => mean(own.filter(({ at }) => at >= note - 1 === isAfter).map((one) => one.ms));
    return agrees(ms, side(true) - side(false));
  },
  stop: (_, { notes, soundedS }) => {
    const sounded = soundedS.flatMap((one) => one ?? []);
    const gaps = [...sounded.slice(1), notes.at(-1)?.timeS ?? 0].map((one, k) => one - (sounded[k] as number));
    const holes = soundedS.map((one) => (one === null ? '-' : 'x')).join('');
    return holes.includes('---') || Math.max(...gaps) > 2 * Math.min(...notes.map(({ intervalS }) => intervalS));
  },
  // Played again, or waited for: either way from some note on the rest is late by about a step of the passage.
  stumble: (_, truth) => {
    const late = deviationsOf(truth).map(
      ({ ms }) => (ms / 1000 - truth.lateS) / Math.min(...truth.notes.map((one) => one.intervalS)),
    );
    return late.filter((steps) => steps > 0.6).length >= 2;
  },
  // Every second note left out sounds the same.
  'half-tempo': (_, truth) =>
    truth.kind === 'half' || truth.soundedS.filter((one) => one === null).length >= 0.3 * truth.notes.length,
  'double-tempo': (_, { kind }) => kind === 'double',
  'first-bar': (_, { notes, soundedS, kind }) => kind === 'bar late' || soundedS[0] === null || notes.length === 0,
};

/** The same sounds heard in order, as one who does not know of the stumble hears them: in an even run both are true. */
const inOrder = (truth: Truth): Truth => {
  const sounds = [...truth.soundedS.flatMap((one) => one ?? []), ...truth.addedS].sort((a, b) => a - b);
  return { ...truth, soundedS: truth.notes.map((_, k) => sounds[k] ?? null), addedS: sounds.slice(truth.notes.length) };
};

type Plant = (truth: Truth, draw: { uniform(): number; normal(): number }) => Partial<Truth>;

const shifted = (truth: Truth, byS: (at: number, timeS: number) => number) =>
  truth.soundedS.map((one, at) => (one === null ? null : one + byS(at, truth.notes[at]?.timeS ?? 0)));
const someNote = ({ notes }: Truth, uniform: () => number): number => Math.floor(uniform() * notes.length);
const stepS = ({ notes }: Truth, at: number): number => notes[at]?.intervalS ?? 0;
const startOf = ({ notes }: Truth): number => notes[0]?.timeS ?? 0;

/** What may befall a repetition. */
const PLANTS: Record<string, Plant> = {
  nothing: () => ({}),
  missed: (truth, { uniform }) => {
    const share = 0.3 * uniform();
    return { soundedS: truth.soundedS.map((one) => (uniform() < share ? null : one)) };
  },
  added: (truth, { uniform }) => ({
    addedS: truth.notes.flatMap(({ timeS, intervalS }) =>
      uniform() < 0.06 ? [timeS + truth.lateS + (0.35 + 0.3 * uniform()) * intervalS] : [],
    ),
  }),
  drags: (truth, { normal }) => {
    const share = 0.02 * normal();
    return { soundedS: shifted(truth, (_, timeS) => share * (timeS - startOf(truth))) };
  },
  jumps: (truth, { uniform, normal }) => {
    const from = someNote(truth, uniform);
    const byS = 0.03 * normal();
    return { soundedS: shifted(truth, (at) => (at >= from ? byS : 0)) };
  },
  stops: (truth, { uniform }) => {
    const from = Math.max(1, someNote(truth, uniform));
    const byS = (0.5 + 2 * uniform()) * stepS(truth, from) + 0.3;
    return { soundedS: shifted(truth, (at) => (at >= from ? byS : 0)) };
  },
  ends: (truth, { uniform }) => {
    const from = Math.max(2, someNote(truth, uniform));
    return { soundedS: truth.soundedS.map((one, at) => (at >= from ? null : one)) };
  },
  stumble: (truth, { uniform }) => {
    const from = 1 + Math.floor(uniform() * (truth.notes.length - 2));
    const byS = stepS(truth, from);
    const again = truth.soundedS[from];
    return {
      soundedS: shifted(truth, (at) => (at >= from ? byS : 0)),
      addedS: again === null || again === undefined ? [] : [again],
    };
  },
  half: (truth) => ({ soundedS: shifted(truth, (_, timeS) => timeS - startOf(truth)) }),
  double: (truth) => ({ soundedS: shifted(truth, (_, timeS) => (startOf(truth) - timeS) / 2) }),
};

const anyPlayed = (seed: number) => {
  const { uniform, normal } = chanceOf(seed, 1717);
  const pick = <Value>(values: readonly Value[]): Value => values[Math.floor(uniform() * values.length)] as Value;
  const drill = pick(RHYTHMS).drill(pick([8, 12, 16, 24, 48]));
  const bpm = 50 + Math.floor(110 * uniform());
  const plan = planOf(drill, bpm);
  const tolerance = pick(Object.values(TOLERANCE_PRESETS));
  const { notes } = plan;
  const windowsMs = notes.map(({ intervalS }) => toleranceWindowMs(tolerance, 1000 * intervalS));
  const share = 0.1 + 0.9 * uniform();
  const lateMs = 120 * uniform();
  const player = pick(PLAYERS);
  const timesS = notes.map(({ timeS }) => timeS);
  const deviations = player.deviationsMs({ timesS, sdMs: windowsMs.map((ms) => share * ms), seed: seed * 17 });
  const soundedS = timesS.map((timeS, k) => timeS + (lateMs + (deviations[k] as number)) / 1000);
  const kind = pick(Object.keys(PLANTS));
  const plain: Truth = { notes, soundedS, addedS: [], windowsMs, lateS: lateMs / 1000, kind };
  const truth: Truth = { ...plain, ...PLANTS[kind]?.(plain, { uniform, normal }) };
  const onsets = [...truth.soundedS.flatMap((one) => one ?? []), ...truth.addedS]
    .sort((a, b) => a - b)
    .map((timeS) => ({ timeS, levelDb: -12 }));
  const { verdict } = analyseRepetition(onsets, {
    drill,
    plan,
    profile: profileOf('tap'),
    tolerance,
    latencyS: null,
    offset: settledAt(0.06, bpm),
    gap: false,
  });
  return { truth, verdict };
};

export const verdictSentenceTable = (times = 10_000): Table => {
  const seen = new Map<string, { said: number; contradicted: number; like: string }>();
  for (let seed = 1; seed <= times; seed += 1) {
    const { truth, verdict } = anyPlayed(seed);
    const { why } = verdict;
    const one = seen.get(why.code) ?? { said: 0, contradicted: 0, like: '' };
    const claim = CLAIMS[why.code];
    const readings = truth.kind === 'stumble' ? [truth, inOrder(truth)] : [truth];
    const isRight = !claim || readings.some((reading) => claim(why.values as Values, reading));
    if (!isRight && process.env.SHOW)
      console.log(seed, truth.kind, JSON.stringify(why), describeReason(why, { noteNaming: 'british' }));
    const isFirstWrong = !isRight && one.contradicted === 0;
    seen.set(why.code, {
      said: one.said + 1,
      contradicted: one.contradicted + (isRight ? 0 : 1),
      like:
        one.like && !isFirstWrong
          ? one.like
          : `${isRight ? '' : `${truth.kind}, seed ${seed}: `}${describeReason(why, { noteNaming: 'british' })}`,
    });
  }
  return {
    title: 'Sentences of a verdict and what was played',
    about: `${times} repetitions by any player with nothing or one thing planted, any rhythm, tolerance and tempo from 50 to 159; each sentence against arithmetic over what was really played. Contradicted: another sign, a size that is not half to twice, a count that does not add up, or something said that was not played. Wanted: none.`,
    head: ['sentence', 'said', 'contradicted', 'one of them'],
    rows: [...seen]
      .sort(([a], [b]) => a.localeCompare(b))
      .map(([code, { said, contradicted, like }]) => [code, `${said}`, `${contradicted}`, like]),
  };
};
