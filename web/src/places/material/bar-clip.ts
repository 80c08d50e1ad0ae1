import type { CopiedBars } from '@isochron/core/material';

/** The bars that were copied last, for any passage that is open after it. */
let clip: CopiedBars | null = null;

export const copyBars = (bars: CopiedBars): void => {
  clip = bars;
};
export const pastedBars = (): CopiedBars | null => clip;
