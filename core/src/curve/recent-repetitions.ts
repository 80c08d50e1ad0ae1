import type { PassageRepetitions } from '../schema/api';
import { DAY_MS } from '../time/units';
import { type Tried, triedFrom } from './unsteadiness-fit';

/** What was played so many days ago tells half as much. */
const HALF_LIFE_DAYS = 6;
/** What was played before so many repetitions says nothing of now: who practises gets better. */
const MAX_REPETITIONS = 100;

/** The repetitions of a variant and a section of a passage. */
export const ofPart = (repetitions: PassageRepetitions, part: { variantId: string; sectionId: string }): PassageRepetitions =>
  repetitions.filter(({ variantId, sectionId }) => variantId === part.variantId && sectionId === part.sectionId);

/** Repetitions of one part of a passage as a curve sees them at a moment: older ones with less weight. */
export const recentRepetitions = (repetitions: PassageRepetitions, now: Date): Tried[] =>
  repetitions
    .filter(({ outcome, repetitionKind }) => outcome !== 'not-judged' && repetitionKind === null)
    .slice(-MAX_REPETITIONS)
    .map((one) => {
      const ageDays = Math.max(0, now.getTime() - Date.parse(one.startedAt)) / DAY_MS;
      return triedFrom(one, 0.5 ** (ageDays / HALF_LIFE_DAYS));
    });
