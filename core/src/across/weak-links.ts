import { RETURN_SHARE } from '../measure/measure-repetition';
import type { NoteResult } from '../schema/measures';
import { type Estimate, meanEstimate, studentTProbability } from '../stats/interval-estimate';
import { mean, median, sampleSd } from '../stats/summary';
import { MIN_REPETITIONS } from './usable';

/** A step from one note to the next, over all repetitions. */
export interface Link {
  /** Index of the note that the step leaves from; it goes to the next. */
  from: number;
  count: number;
  /** Mean of (played − notated) length against the repetition's middle step, in ms, with its 95 % t interval: negative is short. */
  biasMs: Estimate;
  /** Whether it stays clear of chance although so many steps were looked at, and leads to the note that lies wrong. */
  standsOut: boolean;
}

/** The chance of any false alarm among all steps of a take. */
const FALSE_ALARM = 0.05;

/** Errors (played − notated, ms) of each step of a repetition; null where either note was missed. */
const stepErrorsMs = (notes: readonly NoteResult[]): (number | null)[] =>
  notes.slice(1).map((note, k) => {
    const before = notes[k] as NoteResult;
    if (note.onsetS === null || before.onsetS === null) return null;
    return (note.onsetS - before.onsetS - (note.expectedS - before.expectedS)) * 1000;
  });

/** Step errors about the repetition's middle one: a drag lengthens every step, and is no weak spot. */
const centred = (errors: readonly (number | null)[]): (number | null)[] => {
  const middle = median(errors.filter((error) => error !== null));
  return errors.map((error) => (error === null ? null : error - middle));
};

/**
 * Which of several null hypotheses fall, all together with a chance of {@link FALSE_ALARM} of any false one: Holm's step-down over
 * their p values. Source: Holm, Scandinavian Journal of Statistics 6 (1979).
 */
export const holm = (probabilities: readonly number[]): boolean[] => {
  const order = probabilities.map((_, k) => k).sort((a, b) => (probabilities[a] as number) - (probabilities[b] as number));
  const falls = probabilities.map(() => false);
  for (const [rank, k] of order.entries()) {
    if ((probabilities[k] as number) > FALSE_ALARM / (probabilities.length - rank)) break;
    falls[k] = true;
  }
  return falls;
};

/** Whether one step undoes the one before it: a late note makes its own step long and the next one short. */
const isReturn = (step: Link, before: Link | undefined): before is Link =>
  before !== undefined &&
  before.from === step.from - 1 &&
  before.biasMs.value * step.biasMs.value < 0 &&
  Math.abs(before.biasMs.value) >= RETURN_SHARE * Math.abs(step.biasMs.value);

/**
 * The steps of a grid, the farthest from their length first, those that stand out before all others. Each step's signed mean error is
 * held against its own scatter (Student's t), corrected for how many steps are looked at (Holm); where one late note makes two steps
 * wrong, the one that leads to it is named, not the return. Empty below three repetitions.
 */
export const weakLinks = (repetitions: readonly (readonly NoteResult[])[]): Link[] => {
  if (repetitions.length < MIN_REPETITIONS) return [];
  const errors = repetitions.map((notes) => centred(stepErrorsMs(notes)));
  const links: Link[] = [];
  const probabilities: number[] = [];
  for (let k = 0; k < (errors[0]?.length ?? 0); k += 1) {
    const own = errors.flatMap((row) => row[k] ?? []);
    if (own.length < MIN_REPETITIONS) continue;
    const sd = sampleSd(own);
    const bias = mean(own);
    links.push({
      from: repetitions[0]?.[k]?.index ?? k,
      count: own.length,
      biasMs: meanEstimate(bias, sd, own.length),
      standsOut: false,
    });
    probabilities.push(sd > 0 ? studentTProbability((bias * Math.sqrt(own.length)) / sd, own.length - 1) : 1);
  }
  const falls = holm(probabilities);
  links.forEach((link, k) => {
    if (!falls[k]) return;
    const before = links[k - 1];
    (isReturn(link, before) ? before : link).standsOut = true;
  });
  const rank = (link: Link) => (link.standsOut ? 1e6 : 0) + Math.abs(link.biasMs.value);
  return links.sort((a, b) => rank(b) - rank(a));
};
