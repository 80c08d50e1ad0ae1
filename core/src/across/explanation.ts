import type { GridEvent } from '../schema/grid';
import type { NoteResult } from '../schema/measures';
import { type Estimate, studentTProbability, studentTQuantile } from '../stats/interval-estimate';
import { mean, total } from '../stats/summary';
import { type Detrended, detrended, TREND_TERMS } from './detrended';
import { LABEL_KINDS } from './label-kinds';
import { type Systematic, systematicOf } from './systematic';
import { MIN_REPETITIONS } from './usable';

/** What may be the same every time: notes of one label, of one place in the group, a single note, or all from one note on. */
export type Subject =
  | { family: 'label'; kind: string; label: string; others: string }
  | { family: 'place'; place: number; of: number }
  | { family: 'note'; position: number }
  | { family: 'step'; position: number };

/** The one thing that explains best what is the same every time. */
export interface Explanation {
  subject: Subject;
  /** How much later than the others it comes, in ms, with its 95 % interval. */
  byMs: Estimate;
  /** How much of what is the same every time it explains, 0…1. */
  share: number;
}

/** The step that leads to a note that comes late or early; the first note has none, and makes the one after it wrong. Counted from 1. */
export const stepOf = (position: number, byMs: Estimate): { note: number; byMs: Estimate } => {
  if (position > 0) return { note: position, byMs };
  const { value, low, high } = byMs;
  return { note: 1, byMs: { value: -value, low: high === null ? null : -high, high: low === null ? null : -low } };
};

/** What is the same every time in repetitions of one grid. */
export interface Explained {
  systematic: Systematic;
  /** Whether anything is the same every time beyond chance. */
  isSystematic: boolean;
  /** Null where nothing alone explains most of it, or nothing is beyond chance. */
  explanation: Explanation | null;
}

/**
 * The chances of a false alarm that each family of explanations, and the habit without one, may have in a take: together 4 %, which leaves
 * room for what chance does to the tests themselves.
 */
const FALSE_ALARM = { label: 0.01, place: 0.0075, note: 0.0075, step: 0.005, habit: 0.0075 } as const;
/** Whether notes of a label differ from others as notes differ among themselves: their own habits are not the label's. */
const AMONG_POSITIONS = 0.05;
/** Fewer notes than this say nothing of what they share. */
const MIN_NOTES = 3;
/** One explanation is told where it holds most of what is the same every time. */
const MOST = 0.5;

/** Positions' means and times about their middle. */
interface Ground {
  means: number[];
  fromS: number[];
  meanSum: number;
  timeSquares: number;
  timeMeanSum: number;
}

const groundOf = ({ means, timesS }: Detrended): Ground => {
  const middleS = mean(timesS);
  const fromS = timesS.map((timeS) => timeS - middleS);
  return {
    means,
    fromS,
    meanSum: total(means),
    timeSquares: total(fromS.map((one) => one ** 2)),
    timeMeanSum: total(fromS.map((one, k) => one * (means[k] as number))),
  };
};

/** Of the notes that a candidate is about: how many they are, and their times and means added up. */
interface Sums {
  count: number;
  timeSum: number;
  meanSum: number;
}

interface Candidate {
  subject: Subject;
  isMember(position: number): boolean;
  sums: Sums;
}

const candidateOf = (subject: Subject, isMember: Candidate['isMember'], { means, fromS }: Ground): Candidate => {
  const sums = { count: 0, timeSum: 0, meanSum: 0 };
  means.forEach((value, position) => {
    if (!isMember(position)) return;
    sums.count += 1;
    sums.timeSum += fromS[position] as number;
    sums.meanSum += value;
  });
  return { subject, isMember, sums };
};

const isEnough = ({ sums: { count } }: Candidate, { means }: Ground): boolean =>
  count >= MIN_NOTES && means.length - count >= MIN_NOTES;

/** Every label against all others of its kind. */
const labelCandidates = (notes: readonly NoteResult[], events: readonly GridEvent[], ground: Ground): Candidate[] =>
  LABEL_KINDS.flatMap(({ id, labelOf }) => {
    const labels = notes.map(({ index }) => (events[index] ? labelOf(events[index]) : null));
    const all = [...new Set(labels.filter((label) => label !== null))].sort();
    if (all.length < 2) return [];
    const others = all.length === 2 ? (all[1] as string) : '';
    return all
      .slice(0, all.length === 2 ? 1 : undefined)
      .map((label) =>
        candidateOf({ family: 'label', kind: id, label, others }, (position) => labels[position] === label, ground),
      )
      .filter((one) => isEnough(one, ground));
  });

/** Groups that are looked at: every second note, thirds and so on. */
const GROUPS = [2, 3, 4, 6];

/** Every place of groups of two to six notes, where the notes of the grid are even. */
const placeCandidates = (ground: Ground): Candidate[] => {
  const steps = ground.fromS.slice(1).map((timeS, k) => timeS - (ground.fromS[k] as number));
  const shortest = steps.reduce((least, step) => Math.min(least, step), Infinity);
  const isEven = steps.slice(0, -1).every((step) => step < 1.02 * shortest);
  if (!isEven) return [];
  return GROUPS.flatMap((of) =>
    Array.from({ length: of === 2 ? 1 : of }, (_, k) => (of === 2 ? 2 : k + 1))
      .map((place) => candidateOf({ family: 'place', place, of }, (position) => position % of === place - 1, ground))
      .filter((one) => isEnough(one, ground)),
  );
};

const noteCandidates = ({ means, fromS }: Ground): Candidate[] =>
  means.map((meanSum, position) => ({
    subject: { family: 'note', position },
    isMember: (other) => other === position,
    sums: { count: 1, timeSum: fromS[position] as number, meanSum },
  }));

/** All notes from one on: a step that is too long or too short, and not made good. */
const stepCandidates = (ground: Ground): Candidate[] => {
  let sums: Sums = { count: 0, timeSum: 0, meanSum: 0 };
  const candidates: Candidate[] = [];
  for (let position = ground.means.length - 1; position >= 0; position -= 1) {
    sums = {
      count: sums.count + 1,
      timeSum: sums.timeSum + (ground.fromS[position] as number),
      meanSum: sums.meanSum + (ground.means[position] as number),
    };
    candidates.push({ subject: { family: 'step', position }, isMember: (other) => other >= position, sums });
  }
  return candidates.reverse().filter((one) => isEnough(one, ground));
};

/** A candidate beside others of its family, and how much of the means it explains. */
interface Scored {
  candidate: Candidate;
  candidates: number;
  level: number;
  /** What its notes lean over time, in 1/s. */
  lean: number;
  /** Sum of squares of its contrast. */
  norm: number;
  byMs: number;
  /** Sum of squares of the means without it, in ms². */
  left: number;
  /** Better where it leaves less with as little freedom (Schwarz's criterion), the number of candidates of its family held against it. */
  score: number;
}

/** From sums alone: in a long passage there are thousands of candidates. */
const scored = (family: readonly Candidate[], ground: Ground, { squares }: Systematic): Scored[] =>
  family.flatMap((candidate): Scored[] => {
    const { count, timeSum, meanSum } = candidate.sums;
    const positions = ground.means.length;
    // The contrast is what is left of ones and zeros without level and slope, as the means are.
    const level = count / positions;
    const lean = ground.timeSquares > 0 ? timeSum / ground.timeSquares : 0;
    const norm = count - positions * level ** 2 - lean ** 2 * ground.timeSquares;
    if (norm < 1e-9 * positions) return [];
    const byMs = (meanSum - level * ground.meanSum - lean * ground.timeMeanSum) / norm;
    const left = Math.max(squares - byMs ** 2 * norm, 1e-9 * squares, 1e-12);
    const candidates = family.length;
    const score = -positions * Math.log(left) - Math.log(positions) - 2 * Math.log(candidates);
    return [{ candidate, candidates, level, lean, norm, byMs, left, score }];
  });

/** So many values' worth of all notes' scatter are believed of a single note's, which few repetitions tell badly. */
const BORROWED = 2;

const noteVariances = ({ means, rest, restVariance, repetitions }: Detrended): number[] =>
  means.map((_, position) => {
    const squares = rest.reduce((sum, row) => sum + (row[position] ?? 0) ** 2, 0);
    return (BORROWED * restVariance + squares) / (BORROWED + repetitions - 1);
  });

/** What a candidate would be as an explanation, and whether it is clear of chance. */
const fit = (
  { candidate: { subject, isMember }, candidates, level, lean, norm, byMs, left }: Scored,
  data: Detrended,
  { fromS }: Ground,
  { squares, byChance }: Systematic,
): { explanation: Explanation; isSure: boolean } => {
  const { correlations, repetitions } = data;
  const positions = fromS.length;
  const column = fromS.map((timeS, k) => (isMember(k) ? 1 : 0) - level - lean * timeS);
  const leftDegrees = positions - TREND_TERMS - 1;
  // The scatter of the contrast over repetitions: neighbours that hang together make it more, or less.
  const together = () =>
    correlations.reduce((sum, rho, lag) => {
      const beside = total(column.map((value, k) => value * (column[k + lag + 1] ?? 0)));
      return sum + (2 * rho * beside) / norm;
    }, 1);
  const isNote = subject.family === 'note';
  // Notes may be unequally unsteady: each counts with its own scatter.
  const variances = noteVariances(data);
  const variance = total(column.map((value, k) => value ** 2 * (variances[k] as number))) / norm;
  const degrees = isNote ? repetitions - 1 + BORROWED : (repetitions - 1) * (positions - TREND_TERMS);
  const error = Math.sqrt((variance * (isNote ? 1 : Math.max(0.7, together()))) / repetitions / norm);
  const probability = error > 0 ? studentTProbability(byMs / error, degrees) : 0;
  const amongError = Math.sqrt(left / leftDegrees / norm);
  const among = studentTProbability(byMs / amongError, leftDegrees);
  const alarm = FALSE_ALARM[subject.family] / candidates;
  const half = isNote
    ? studentTQuantile(0.975, degrees) * error
    : studentTQuantile(0.975, leftDegrees) * Math.max(amongError, error);
  const beyondChance = byMs ** 2 * norm - byChance / (positions - TREND_TERMS);
  return {
    explanation: {
      subject,
      byMs: { value: byMs, low: byMs - half, high: byMs + half },
      share: Math.max(0, Math.min(1, beyondChance / Math.max(squares - byChance, 1e-9))),
    },
    isSure: probability < alarm && (isNote || among < AMONG_POSITIONS),
  };
};

/**
 * A step is told where it is itself off by this share of what it is to explain, or up to its inverse (our choice): a slow wander has no one
 * step, and of one that is off by far more its number would be too small.
 */
const OWN_STEP = 0.5;

const isItsStep = ({ subject, byMs }: Explanation, { means }: Detrended): boolean => {
  if (subject.family !== 'note' && subject.family !== 'step') return true;
  const { note, byMs: by } = stepOf(subject.position, byMs);
  const own = ((means[note] as number) - (means[note - 1] as number)) / by.value;
  return own >= OWN_STEP && own <= 1 / OWN_STEP;
};

/**
 * What is the same every time in repetitions of one grid, and what explains it: labels, places and single notes compete, and the one that
 * leaves least unexplained with as little freedom is told, where it is clear of chance and holds most of it. Null below three repetitions.
 */
export const explain = (
  repetitions: readonly (readonly NoteResult[])[],
  events: readonly GridEvent[],
  data = detrended(repetitions),
): Explained | null => {
  if (repetitions.length < MIN_REPETITIONS || !data) return null;
  const systematic = systematicOf(data);
  const ground = groundOf(data);
  const families = [
    labelCandidates(repetitions[0] ?? [], events, ground),
    placeCandidates(ground),
    noteCandidates(ground),
    stepCandidates(ground),
  ];
  const all = families.flatMap((family) => scored(family, ground, systematic));
  // A label that stands for the same notes as a place comes first, and says more.
  const best = all.reduce<Scored | null>((a, b) => (a && a.score >= b.score - 1e-9 ? a : b), null);
  const told = best && fit(best, data, ground, systematic);
  const isTold = told?.isSure && told.explanation.share >= MOST && isItsStep(told.explanation, data);
  return {
    systematic,
    isSystematic: systematic.probability < FALSE_ALARM.habit || (told?.isSure ?? false),
    explanation: isTold ? told.explanation : null,
  };
};
