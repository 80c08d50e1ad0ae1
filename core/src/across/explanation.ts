import type { GridEvent } from '../schema/grid';
import type { NoteResult } from '../schema/measures';
import { type Estimate, studentTProbability, studentTQuantile } from '../stats/interval-estimate';
import { mean } from '../stats/summary';
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

interface Candidate {
  subject: Subject;
  /** 1 for the notes that it is about, 0 for the others. */
  members: number[];
}

/** Every label against all others of its kind. */
const labelCandidates = (notes: readonly NoteResult[], events: readonly GridEvent[]): Candidate[] =>
  LABEL_KINDS.flatMap(({ id, labelOf }) => {
    const labels = notes.map(({ index }) => (events[index] ? labelOf(events[index]) : null));
    const all = [...new Set(labels.filter((label) => label !== null))].sort();
    if (all.length < 2) return [];
    return all.slice(0, all.length === 2 ? 1 : undefined).flatMap((label): Candidate[] => {
      const members = labels.map((one) => (one === label ? 1 : 0));
      const others = all.length === 2 ? (all[1] as string) : '';
      return isEnough(members) ? [{ subject: { family: 'label', kind: id, label, others }, members }] : [];
    });
  });

const isEnough = (members: readonly number[]): boolean => {
  const count = members.reduce((sum, one) => sum + one, 0);
  return count >= MIN_NOTES && members.length - count >= MIN_NOTES;
};

/** Groups that are looked at: every second note, thirds and so on. */
const GROUPS = [2, 3, 4, 6];

/** Every place of groups of two to six notes, where the notes of the grid are even. */
const placeCandidates = ({ timesS }: Detrended): Candidate[] => {
  const steps = timesS.slice(1).map((timeS, k) => timeS - (timesS[k] as number));
  const shortest = Math.min(...steps);
  const isEven = steps.slice(0, -1).every((step) => step < 1.02 * shortest);
  if (!isEven) return [];
  return GROUPS.flatMap((of) =>
    Array.from({ length: of === 2 ? 1 : of }, (_, k) => k).flatMap((k): Candidate[] => {
      const place = of === 2 ? 2 : k + 1;
      const members = timesS.map((_, position) => (position % of === place - 1 ? 1 : 0));
      return isEnough(members) ? [{ subject: { family: 'place', place, of }, members }] : [];
    }),
  );
};

const noteCandidates = ({ timesS }: Detrended): Candidate[] =>
  timesS.map((_, position) => ({
    subject: { family: 'note', position },
    members: timesS.map((__, k) => (k === position ? 1 : 0)),
  }));

/** All notes from one on: a step that is too long or too short, and not made good. */
const stepCandidates = ({ timesS }: Detrended): Candidate[] =>
  timesS.flatMap((_, position): Candidate[] => {
    const members = timesS.map((__, k) => (k >= position ? 1 : 0));
    return isEnough(members) ? [{ subject: { family: 'step', position }, members }] : [];
  });

interface Fit extends Candidate {
  explanation: Explanation;
  /** Better where it leaves less with as little freedom (Schwarz's criterion), the number of candidates of its family held against it. */
  score: number;
  isSure: boolean;
}

/** So many values' worth of all notes' scatter are believed of a single note's, which few repetitions tell badly. */
const BORROWED = 2;

/** Times about their middle, and the sum of their squares. */
interface CentredTimes {
  fromS: number[];
  squares: number;
}

const centredTimes = ({ timesS }: Detrended): CentredTimes => {
  const middleS = mean(timesS);
  const fromS = timesS.map((timeS) => timeS - middleS);
  return { fromS, squares: fromS.reduce((sum, one) => sum + one ** 2, 0) };
};

/** A candidate's notes without level and slope, as the means are: in a long passage there are thousands of candidates. */
const contrastOf = (members: readonly number[], { fromS, squares }: CentredTimes): number[] => {
  const level = mean(members);
  const slope = squares > 0 ? members.reduce((sum, one, k) => sum + one * (fromS[k] as number), 0) / squares : 0;
  return members.map((one, k) => one - level - slope * (fromS[k] as number));
};

const noteVariances = ({ means, rest, restVariance, repetitions }: Detrended): number[] =>
  means.map((_, position) => {
    const squares = rest.reduce((sum, row) => sum + (row[position] ?? 0) ** 2, 0);
    return (BORROWED * restVariance + squares) / (BORROWED + repetitions - 1);
  });

const fit = (
  { subject, members }: Candidate,
  { means, correlations, repetitions }: Detrended,
  centred: CentredTimes,
  variances: readonly number[],
  { squares, byChance }: Systematic,
  candidates: number,
): Fit | null => {
  const positions = means.length;
  const column = contrastOf(members, centred);
  const norm = column.reduce((sum, value) => sum + value ** 2, 0);
  if (norm < 1e-9) return null;
  const slope = column.reduce((sum, value, k) => sum + value * (means[k] as number), 0) / norm;
  const explained = slope ** 2 * norm;
  const left = Math.max(squares - explained, 1e-9 * squares, 1e-12);
  const leftDegrees = positions - TREND_TERMS - 1;
  // The scatter of the contrast over repetitions: neighbours that hang together make it more, or less.
  const together = () =>
    correlations.reduce((sum, rho, lag) => {
      const beside = column.reduce((total, value, k) => total + value * (column[k + lag + 1] ?? 0), 0);
      return sum + (2 * rho * beside) / norm;
    }, 1);
  const isNote = subject.family === 'note';
  // Notes may be unequally unsteady: each counts with its own scatter.
  const variance = column.reduce((sum, value, k) => sum + value ** 2 * (variances[k] as number), 0) / norm;
  const degrees = isNote ? repetitions - 1 + BORROWED : (repetitions - 1) * (positions - TREND_TERMS);
  const error = Math.sqrt((variance * (isNote ? 1 : Math.max(0.7, together()))) / repetitions / norm);
  const probability = error > 0 ? studentTProbability(slope / error, degrees) : 0;
  const amongError = Math.sqrt(left / leftDegrees / norm);
  const among = studentTProbability(slope / amongError, leftDegrees);
  const alarm = FALSE_ALARM[subject.family] / candidates;
  const half = isNote
    ? studentTQuantile(0.975, degrees) * error
    : studentTQuantile(0.975, leftDegrees) * Math.max(amongError, error);
  return {
    subject,
    members,
    explanation: {
      subject,
      byMs: { value: slope, low: slope - half, high: slope + half },
      share: Math.max(0, Math.min(1, (explained - byChance / (positions - TREND_TERMS)) / Math.max(squares - byChance, 1e-9))),
    },
    score: -positions * Math.log(left) - Math.log(positions) - 2 * Math.log(candidates),
    isSure: probability < alarm && (isNote || among < AMONG_POSITIONS),
  };
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
  const variances = noteVariances(data);
  const centred = centredTimes(data);
  const families = [
    labelCandidates(repetitions[0] ?? [], events),
    placeCandidates(data),
    noteCandidates(data),
    stepCandidates(data),
  ];
  const fits = families.flatMap((family) =>
    family.flatMap((one) => fit(one, data, centred, variances, systematic, family.length) ?? []),
  );
  // A label that stands for the same notes as a place comes first, and says more.
  const best = fits.reduce<Fit | null>((a, b) => (a && a.score >= b.score - 1e-9 ? a : b), null);
  const isTold = best?.isSure && best.explanation.share >= MOST;
  return {
    systematic,
    isSystematic: systematic.probability < FALSE_ALARM.habit || (best?.isSure ?? false),
    explanation: best && isTold ? best.explanation : null,
  };
};
