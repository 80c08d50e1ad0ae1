/** Resolves after so many milliseconds. */
export const after = (ms: number): Promise<void> => new Promise((resolve) => setTimeout(resolve, ms));
