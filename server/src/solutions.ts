import { type Solution, SolutionSchema } from '@isochron/core/schema';
import type { Store } from './database/open';
import { isIntact } from './database/seal';

/** Every entry of the notebook, newest first. One that cannot be read hides only itself. */
export const listSolutions = async ({ models, unreadable }: Store): Promise<Solution[]> =>
  (await models.solutions.findAll({ order: [['editedAt', 'DESC']] })).flatMap((row) => {
    const { id, document } = row.get({ plain: true });
    return unreadable.read('notebook entry', id, SolutionSchema, isIntact(row) && document) ?? [];
  });

/** Stores an entry. One that was changed later elsewhere stays as it is. Gives back what is stored. */
export const putSolution = (store: Store, solution: Solution): Promise<Solution> =>
  store.write(async (transaction) => {
    const { id, passageId, editedAt } = solution;
    const before = (await store.models.solutions.findByPk(id, { transaction }))?.get('document') as Solution | undefined;
    if (before && before.editedAt > editedAt) return before;
    await store.models.solutions.upsert({ id, passageId, editedAt, document: solution }, { transaction });
    return solution;
  });
