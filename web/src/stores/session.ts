import type { PracticeSession } from '@isochron/core';

/** One sitting: the time since the page was opened. */
export const SESSION: PracticeSession = { id: crypto.randomUUID(), startedAt: new Date().toISOString() };
