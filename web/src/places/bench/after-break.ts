import { type AfterBreak, AfterBreakSchema } from '@isochron/core/schema';

/** Where a repetition that broke off may be taken up, in the order in which a key goes through them. */
export const AFTER_BREAKS = AfterBreakSchema.options;

export const AFTER_BREAK_WORDS: Record<AfterBreak, string> = {
  beginning: 'from the beginning',
  'bar-before': 'from a bar before it',
  bar: 'that bar alone',
};

/** The one after another. */
export const nextAfterBreak = (how: AfterBreak): AfterBreak =>
  AFTER_BREAKS[(AFTER_BREAKS.indexOf(how) + 1) % AFTER_BREAKS.length] as AfterBreak;
