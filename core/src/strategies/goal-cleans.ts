import { z } from 'zod';
import type { OptionField } from '../schema/options';

/** The goal is reached with so many clean repetitions of it in a row: an option of most strategies. */
export const GoalCleans = z.union([z.literal(2), z.literal(3), z.literal(5)]).default(3);

export const GOAL_CLEANS_FIELD: OptionField = {
  key: 'goalCleans',
  label: 'Reached when clean',
  choices: [2, 3, 5].map((count) => ({ value: count, name: `${count} times in a row` })),
};
