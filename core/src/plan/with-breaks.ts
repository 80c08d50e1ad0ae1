import type { PlanBlock, PlanSettings } from '../schema/day-plan';
import type { Draft } from './plan-making';

/** Blocks with their names, and so many breaks between them, each before the first block that would make the stretch too long. */
export const withBreaks = (
  drafts: readonly Draft[],
  breaks: number,
  { breakAfterMin, breakMin }: PlanSettings & { breakAfterMin: number },
): PlanBlock[] => {
  const total = drafts.reduce((sum, { minutes }) => sum + minutes, 0);
  const longest = Math.max(breakAfterMin, total / (breaks + 1));
  let sinceBreak = 0;
  let left = breaks;
  return drafts.map((draft, k) => {
    const isTired = left > 0 && k > 0 && sinceBreak + draft.minutes > longest;
    if (isTired) left -= 1;
    sinceBreak = (isTired ? 0 : sinceBreak) + draft.minutes;
    return { ...draft, id: `${draft.kind}-${k + 1}`, restMin: isTired ? breakMin : 0 };
  });
};
