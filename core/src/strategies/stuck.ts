import type { Outcome } from '../schema/verdict';

/** How much a repetition adds to being stuck: over and over close is stuck as well, only later. */
export const STUCK_BY: Record<Outcome, number> = { clean: 0, 'not-judged': 0, close: 0.5, 'not-yet': 1, broken: 1 };
