import type { Sitting } from '@isochron/core';
import type { Store } from './database/open';

/** Stores a sitting in the place of what was known of it. */
export const putSitting = async ({ models, write }: Store, sitting: Sitting): Promise<void> => {
  const { id, startedAt } = sitting;
  await write((transaction) => models.sittings.upsert({ id, startedAt, document: sitting }, { transaction }));
};
