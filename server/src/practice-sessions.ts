import type { PracticeSession } from '@isochron/core';
import type { Store } from './database/open';

/** Stores a sitting in the place of what was known of it. */
export const putPracticeSession = async ({ models, write }: Store, sitting: PracticeSession): Promise<void> => {
  const { id, startedAt } = sitting;
  await write((transaction) => models.sittings.upsert({ id, startedAt, document: sitting }, { transaction }));
};
