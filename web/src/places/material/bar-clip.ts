import type { CopiedBar } from '@isochron/core/material';

/** The bar that was copied last, for any passage that is open after it. */
let clip: CopiedBar | null = null;

export const copyBar = (bar: CopiedBar): void => {
  clip = bar;
};
export const pastedBar = (): CopiedBar | null => clip;
