import { summaryOf } from '@isochron/core/material';
import {
  type LibraryChange,
  now,
  type Passage,
  PassageSchema,
  type PassageSummary,
  PassageSummarySchema,
} from '@isochron/core/schema';
import { literal } from 'sequelize';
import type { PassageRow } from './database/models';
import type { Store } from './database/open';
import { isIntact } from './database/seal';
import { RequestError } from './request-error';

/** Every passage, by title. One that cannot be read hides only itself. */
export const listPassages = async ({ models, unreadable }: Store): Promise<Passage[]> =>
  (await models.passages.findAll({ order: [['title', 'ASC']] })).flatMap((row) => {
    const { title, document } = row.get({ plain: true });
    return unreadable.read('passage', title, PassageSchema, isIntact(row) && document) ?? [];
  });

/** A passage by its id, or null. Throws a RequestError (422) where it cannot be read. */
export const getPassage = async ({ models, unreadable }: Store, id: string): Promise<Passage | null> => {
  const row = await models.passages.findByPk(id);
  if (!row) return null;
  const { title, document } = row.get({ plain: true });
  const passage = unreadable.read('passage', title, PassageSchema, isIntact(row) && document);
  if (!passage) throw new RequestError(422, 'This passage cannot be read. What is stored of it is left as it is.');
  return passage;
};

/**
 * Every passage that stands on the library, archived ones too, without their notes; by title. Read from the summaries that are stored with
 * them; one that has none yet gets it now.
 */
export const listLibrary = async (store: Store): Promise<PassageSummary[]> => {
  const { models, unreadable } = store;
  const rows = await models.passages.findAll({
    // What is no JSON at all is looked at, so that it is named.
    attributes: { exclude: ['document'], include: [[literal('json_valid(document)'), 'isWhole']] },
    where: { removedAt: null },
    order: [['title', 'ASC']],
  });
  const library: PassageSummary[] = [];
  const fresh: PassageSummary[] = [];
  for (const row of rows) {
    const plain = row.get({ plain: true });
    const known = PassageSummarySchema.safeParse({ ...plain.summary, ...placeOf(plain) }).data;
    if (known && row.get('isWhole' as never)) {
      library.push(known);
      continue;
    }
    const document = (await models.passages.findByPk(plain.id))?.get('document');
    const passage = unreadable.read('passage', plain.title, PassageSchema, document);
    if (!passage) continue;
    const summary = summaryOf(passage, placeOf(plain));
    fresh.push(summary);
    library.push(summary);
  }
  // A disk that takes nothing has them worked out again the next time.
  if (fresh.length > 0)
    await store
      .write(async (transaction) => {
        for (const summary of fresh) await models.passages.update({ summary }, { where: { id: summary.id }, transaction });
      })
      .catch(() => {});
  return library;
};

const placeOf = ({ tags, archivedAt, editedAt }: PassageRow): Pick<PassageSummary, 'tags' | 'archivedAt' | 'editedAt'> => ({
  tags: tags ?? [],
  archivedAt: archivedAt ?? null,
  editedAt: editedAt ?? null,
});

/** Changes a passage's place on the library; its notes and its revision stay. Throws a RequestError where there is no such passage. */
export const shelve = (store: Store, id: string, { tags, archived, removed }: LibraryChange): Promise<PassageSummary> =>
  store.write(async (transaction) => {
    const row = (await store.models.passages.findByPk(id, { transaction }))?.get({ plain: true });
    const passage = row && PassageSchema.safeParse(row.document).data;
    if (!row || !passage) throw new RequestError(404, 'There is no such passage.');
    const at = now().toISOString();
    const change = {
      ...(tags ? { tags: [...new Set(tags)] } : {}),
      ...(archived === undefined ? {} : { archivedAt: archived ? at : null }),
      ...(removed === undefined ? {} : { removedAt: removed ? at : null }),
    };
    await store.models.passages.update(change, { where: { id }, transaction });
    return summaryOf(passage, placeOf({ ...row, ...change }));
  });

/**
 * Stores a passage; every change of it is a revision. Gives back what is stored. Throws a RequestError (412) where `from` names a revision
 * and another is stored: someone else has changed it meanwhile.
 */
export const putPassage = ({ models, write }: Store, passage: Passage, from: number | null = null): Promise<Passage> =>
  write(async (transaction) => {
    const row = (await models.passages.findByPk(passage.id, { transaction }))?.get({ plain: true });
    if (from !== null && (row?.revision ?? 0) !== from)
      throw new RequestError(412, 'This passage was changed elsewhere meanwhile. Load it again, or keep yours as a copy.');
    const before = row && PassageSchema.safeParse(row.document).data;
    const isSame = before && JSON.stringify({ ...passage, revision: before.revision }) === JSON.stringify(before);
    const document = { ...passage, revision: row ? row.revision + (isSame ? 0 : 1) : 1 };
    const { id, title } = passage;
    const editedAt = isSame ? (row?.editedAt ?? null) : now().toISOString();
    const place = row ? placeOf(row) : { tags: [], archivedAt: null };
    // Who stores a passage that was removed has put it back.
    await models.passages.upsert(
      {
        id,
        title,
        revision: document.revision,
        document,
        ...place,
        summary: summaryOf(document, { ...place, editedAt }),
        removedAt: null,
        editedAt,
      },
      { transaction },
    );
    return document;
  });

/** Stores the passages that are not there yet; what the player has changed stays. */
export const storeMissingPassages = async ({ models, write }: Store, passages: readonly Passage[]): Promise<void> => {
  const stored = await models.passages.findAll({ attributes: ['id'] });
  const known = new Set(stored.map((row) => row.get('id')));
  const missing = passages.filter(({ id }) => !known.has(id));
  if (missing.length === 0) return;
  await write(async (transaction) => {
    for (const { id, title, revision, ...rest } of missing)
      await models.passages.create(
        { id, title, revision, document: { id, title, revision, ...rest }, tags: [] },
        { transaction },
      );
  });
};
