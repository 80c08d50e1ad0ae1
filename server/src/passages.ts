import { type Passage, PassageSchema } from '@isochron/core';
import type { Store } from './database/open';
import { Refusal } from './refusal';

/** Every passage, by title. One that cannot be read hides only itself. */
export const listPassages = async ({ models, unreadable }: Store): Promise<Passage[]> =>
  (await models.passages.findAll({ order: [['title', 'ASC']] })).flatMap((row) => {
    const { title, document } = row.get({ plain: true });
    return unreadable.read('passage', title, PassageSchema, document) ?? [];
  });

/** A passage by its id, or null. Throws a Refusal (422) where it cannot be read. */
export const getPassage = async ({ models, unreadable }: Store, id: string): Promise<Passage | null> => {
  const row = (await models.passages.findByPk(id))?.get({ plain: true });
  if (!row) return null;
  const passage = unreadable.read('passage', row.title, PassageSchema, row.document);
  if (!passage) throw new Refusal(422, 'This passage cannot be read. What is stored of it is left as it is.');
  return passage;
};

/** Stores a passage; every change of it is a revision. Gives back what is stored. */
export const putPassage = ({ models, write }: Store, passage: Passage): Promise<Passage> =>
  write(async (transaction) => {
    const row = (await models.passages.findByPk(passage.id, { transaction }))?.get({ plain: true });
    const before = row && PassageSchema.safeParse(row.document).data;
    const isSame = before && JSON.stringify({ ...passage, revision: before.revision }) === JSON.stringify(before);
    const document = { ...passage, revision: row ? row.revision + (isSame ? 0 : 1) : 1 };
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
