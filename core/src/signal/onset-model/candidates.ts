import type { Candidate, Candidates } from '../candidates';
import type { Family } from '../families';
import { createOnsetModel, type DetectedAttack } from './onset-model';

/** Steps less likely than this (natural log-odds) are not even looked at: what is known of grid and score could not make them notes. */
const MIN_LOG_ODDS = -6;
/** What begins so near the end has no sound to be judged by, and a cut is no note. */
const LAST_S = 0.05;

/** The candidates of the ear: steps that it thinks likelier than both their neighbours. */
export const createOnsetCandidates = (sampleRateHz: number, family: Family | null): Candidates => {
  const ear = createOnsetModel(sampleRateHz, family);
  let pushed = 0;
  let before = Number.NEGATIVE_INFINITY;
  let now: DetectedAttack | null = null;

  /** Decides over the step before `after`. */
  const decide = (after: DetectedAttack | null): Candidate[] => {
    const own = now;
    const next = after?.logOdds ?? Number.NEGATIVE_INFINITY;
    const isTop = own !== null && own.logOdds >= MIN_LOG_ODDS && own.logOdds > before && own.logOdds >= next;
    before = own?.logOdds ?? before;
    now = after;
    return own && isTop ? [own] : [];
  };

  const drain = (): Candidate[] => {
    const found: Candidate[] = [];
    // The ear's own object is written over.
    for (let heard = ear.next(); heard; heard = ear.next()) found.push(...decide({ ...heard }));
    return found;
  };

  return {
    push(block) {
      pushed += block.length;
      ear.push(block);
      return drain();
    },
    finish() {
      ear.finish();
      const lastAt = pushed - LAST_S * sampleRateHz;
      return [...drain(), ...decide(null)].filter(({ at }) => at <= lastAt);
    },
    doneTo: () => now?.at ?? 0,
  };
};
