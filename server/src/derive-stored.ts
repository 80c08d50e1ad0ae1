import { isDeepStrictEqual } from 'node:util';
import { deriveTake, figuresOf } from '@isochron/core/strategy';
import type { Store } from './database/open';
import { readTake, rewriteTake } from './takes';

/**
 * Derives what follows from every stored take anew, and puts right what says otherwise. What cannot be read, or not wholly, is left
 * as it is. Gives back how many were put right.
 */
export const deriveStored = async (store: Store): Promise<number> => {
  const rows = await store.models.takes.findAll({ attributes: ['id'] });
  let changed = 0;
  for (const id of rows.map((row) => row.get('id') as string)) {
    const read = await readTake(store, id).catch(() => null);
    if (!read || read.leftOut > 0) continue;
    const derived = deriveTake(read.take);
    const figures = figuresOf(derived);
    const stored = await store.models.takes.findByPk(id, { attributes: Object.keys(figures) });
    if (isDeepStrictEqual(read.take, derived) && isDeepStrictEqual(stored?.get({ plain: true }), figures)) continue;
    await rewriteTake(store, derived);
    changed += 1;
  }
  return changed;
};
