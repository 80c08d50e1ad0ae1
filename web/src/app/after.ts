/** Resolves after so many milliseconds. */
export const after = (ms: number): Promise<void> => new Promise((resolve) => setTimeout(resolve, ms));

/** Resolves when the page has nothing else to do, at the latest after so many milliseconds. */
export const whenIdle = (timeoutMs: number): Promise<void> =>
  typeof requestIdleCallback === 'function'
    ? new Promise((resolve) => requestIdleCallback(() => resolve(), { timeout: timeoutMs }))
    : after(Math.min(timeoutMs, 200));
