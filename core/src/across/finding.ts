import type { AcrossRepetitions } from './across-repetitions';
import type { LabelDifference } from './label-differences';
import { LEAST_REPETITIONS } from './usable';

/** Differences smaller than these are not worth a sentence: below what is heard. */
const HEARD_MS = 4;
const HEARD_DB = 1.5;

const ms = (value: number) => `${Math.abs(value).toFixed(0)} ms`;
const range = (low: number | null, high: number | null, unit: string) =>
  low === null || high === null
    ? ''
    : ` (${Math.min(Math.abs(low), Math.abs(high)).toFixed(0)} to ${Math.max(Math.abs(low), Math.abs(high)).toFixed(0)} ${unit})`;

const NAMES: Record<string, (label: string) => string> = {
  hand: (label) => `the ${label} hand`,
  finger: (label) => `finger ${label}`,
};
const named = (kind: string, label: string) => (NAMES[kind] ?? ((text: string) => text))(label);

const capital = (text: string) => text.charAt(0).toUpperCase() + text.slice(1);

const timingSentence = ({ kind, first, second, biasMs }: LabelDifference): string =>
  `${capital(named(kind, first.label))} plays ${ms(biasMs.value)} ${biasMs.value < 0 ? 'earlier' : 'later'} than ${named(kind, second.label)}${range(biasMs.low, biasMs.high, 'ms')}.`;

const levelSentence = ({ kind, first, second, levelDb }: LabelDifference): string =>
  `${capital(named(kind, first.label))} plays ${Math.abs(levelDb.value).toFixed(1)} dB ${levelDb.value < 0 ? 'softer' : 'louder'} than ${named(kind, second.label)}.`;

/**
 * The one thing that a take's repetitions say most clearly, as a sentence for the player: one weak step, one hand, or
 * an even wobble. What cannot be told from chance is not said.
 */
export const findingOf = ({ count, components, links, labels }: AcrossRepetitions): string => {
  if (count < LEAST_REPETITIONS || !components) {
    return `Too few whole repetitions to find a pattern: ${count}, and ${LEAST_REPETITIONS} are needed.`;
  }
  const share = Math.round(100 * components.systematicShare);
  const weakest = links.find((link) => link.standsOut && Math.abs(link.biasMs) >= HEARD_MS);
  if (weakest) {
    const step = `the step from note ${weakest.from + 1} to note ${weakest.from + 2}`;
    const habit = `is ${ms(weakest.biasMs)} ${weakest.biasMs < 0 ? 'short' : 'long'} on average`;
    return `${share >= 50 ? 'Mostly one spot' : 'One spot stands out'}: ${step} ${habit}; its error is ${weakest.excessMs.toFixed(0)} ms more than the other steps’${range(weakest.lowMs, weakest.highMs, 'ms')}.`;
  }
  const uneven = labels.find(({ biasMs, biasStandsOut }) => biasStandsOut && Math.abs(biasMs.value) >= HEARD_MS);
  if (uneven) return timingSentence(uneven);
  const soft = labels.find(({ levelDb, levelStandsOut }) => levelStandsOut && Math.abs(levelDb.value) >= HEARD_DB);
  if (soft) return levelSentence(soft);
  if (share >= 40)
    return `A habit: ${share} % of the wobble is the same at the same notes every time, spread over several of them.`;
  return `No spot stands out: ${100 - share} % of the wobble differs from repetition to repetition (${components.randomSdMs.toFixed(1)} ms). That is control, not one place.`;
};
