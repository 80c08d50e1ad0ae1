import { type Passage, PassageSchema } from '@isochron/core';
import type { Store } from './database/open';

/** Every passage, by title. One that cannot be read hides only itself. */
export const listPassages = async ({ models }: Store): Promise<Passage[]> =>
  (await models.passages.findAll({ order: [['title', 'ASC']] })).flatMap((row) => {
    const read = PassageSchema.safeParse(row.get('document'));
    return read.success ? [read.data] : [];
  });

/** A passage by its id, or null. */
export const getPassage = async ({ models }: Store, id: string): Promise<Passage | null> => {
  const row = await models.passages.findByPk(id);
  return row && PassageSchema.parse(row.get('document'));
};

/** Stores a passage; every change of it is a revision. Gives back what is stored. */
export const putPassage = ({ models, write }: Store, passage: Passage): Promise<Passage> =>
  write(async (transaction) => {
    const row = await models.passages.findByPk(passage.id, { transaction });
    const before = row && PassageSchema.parse(row.get('document'));
    const isSame = before && JSON.stringify({ ...passage, revision: before.revision }) === JSON.stringify(before);
    const document = { ...passage, revision: before ? before.revision + (isSame ? 0 : 1) : 1 };
    const { id, title } = passage;
    await models.passages.upsert({ id, title, revision: document.revision, document }, { transaction });
    return document;
  });

/** Stores the passages that are not there yet; what the player has changed stays. */
export const storeMissingPassages = async ({ models }: Store, passages: readonly Passage[]): Promise<void> => {
  for (const passage of passages) {
    await models.passages.findOrCreate({
      where: { id: passage.id },
      defaults: { id: passage.id, title: passage.title, revision: passage.revision, document: passage },
    });
  }
};
