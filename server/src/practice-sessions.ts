import type { PracticeSession } from '@isochron/core/schema';
import type { Store } from './database/open';

/** Stores a practice session in the place of what was known of it. */
export const putPracticeSession = async ({ models, write }: Store, session: PracticeSession): Promise<void> => {
  const { id, startedAt } = session;
  await write((transaction) => models.sessions.upsert({ id, startedAt, document: session }, { transaction }));
};
