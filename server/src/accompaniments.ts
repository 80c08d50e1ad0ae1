import { readdir, rm } from 'node:fs/promises';
import { join } from 'node:path';
import type { Readable } from 'node:stream';
import { type Accompaniment, AccompanimentSchema, LARGEST_ACCOMPANIMENT_BYTES } from '@isochron/core';
import type { Store } from './database/open';
import { storeWhole } from './recordings';
import { Refusal } from './refusal';

/** As the sound was brought, in whatever form: only the browser knows what it can decode. */
const ENDING = '.sound';

/** Every recording to play along with, by title. One that cannot be read hides only itself. */
export const listAccompaniments = async ({ models, unreadable }: Store): Promise<Accompaniment[]> =>
  (await models.accompaniments.findAll({ order: [['title', 'ASC']] })).flatMap((row) => {
    const { title, document } = row.get({ plain: true });
    return unreadable.read('accompaniment', title, AccompanimentSchema, document) ?? [];
  });

/** A recording to play along with. Throws a Refusal where there is none (404), or it cannot be read (422). */
export const getAccompaniment = async ({ models, unreadable }: Store, id: string): Promise<Accompaniment> => {
  const row = (await models.accompaniments.findByPk(id))?.get({ plain: true });
  if (!row) throw new Refusal(404, 'This recording is not here any more.');
  const read = unreadable.read('accompaniment', row.title, AccompanimentSchema, row.document);
  if (!read) throw new Refusal(422, 'This recording cannot be read. What is stored of it is left as it is.');
  return read;
};

/**
 * Stores the sound of a new recording, and then the recording: whoever is broken off in between leaves a file that nothing names, and
 * that is swept away at the next start.
 */
export const addAccompaniment = async (
  store: Store,
  accompaniment: Accompaniment,
  source: Readable,
  announcedBytes: number | null,
): Promise<Accompaniment> => {
  const { id, title } = accompaniment;
  if (announcedBytes !== null && announcedBytes > LARGEST_ACCOMPANIMENT_BYTES)
    throw new Refusal(413, 'The recording is larger than 300 MB and was not stored. Cut out the part you want.');
  const file = `${id}${ENDING}`;
  const bytes = await storeWhole(store, file, source, announcedBytes, LARGEST_ACCOMPANIMENT_BYTES);
  if (bytes === 0) {
    await rm(join(store.recordingsFolder, file), { force: true });
    throw new Refusal(400, 'The recording is empty.');
  }
  const document = { ...accompaniment, revision: 1 };
  await store.write((transaction) =>
    store.models.accompaniments.upsert({ id, title, revision: 1, file, bytes, document }, { transaction }),
  );
  return document;
};

/** Changes a recording's title and beats. Throws a Refusal where there is none (404), or another revision is stored (412). */
export const putAccompaniment = ({ models, write }: Store, accompaniment: Accompaniment): Promise<Accompaniment> =>
  write(async (transaction) => {
    const { id, title, revision } = accompaniment;
    const row = (await models.accompaniments.findByPk(id, { transaction }))?.get({ plain: true });
    if (!row) throw new Refusal(404, 'This recording is not here any more.');
    if (row.revision !== revision)
      throw new Refusal(412, 'The beats of this recording were changed elsewhere meanwhile. Load the page again to see them.');
    const document = { ...accompaniment, revision: revision + 1 };
    await models.accompaniments.update({ title, revision: document.revision, document }, { where: { id }, transaction });
    return document;
  });

/** The file of a recording's sound, and its length in bytes. Throws a Refusal (404) where there is none. */
export const soundOf = async ({ models, recordingsFolder }: Store, id: string): Promise<string> => {
  const file = (await models.accompaniments.findByPk(id))?.get('file') as string | undefined;
  if (!file) throw new Refusal(404, 'This recording is not here any more.');
  return join(recordingsFolder, file);
};

/** Removes a recording and its sound. What was played along with it keeps its beats. */
export const removeAccompaniment = async (store: Store, id: string): Promise<void> => {
  const path = await soundOf(store, id);
  await store.write((transaction) => store.models.accompaniments.destroy({ where: { id }, transaction }));
  await rm(path, { force: true });
};

/** Removes sounds that no recording names. Only before any is taken. */
export const sweepAccompaniments = async ({ models, recordingsFolder }: Store): Promise<void> => {
  const named = new Set(
    (await models.accompaniments.findAll({ attributes: ['file'] })).map((row) => row.get('file') as string),
  );
  for (const name of await readdir(recordingsFolder))
    if (name.endsWith(ENDING) && !named.has(name)) await rm(join(recordingsFolder, name), { force: true });
};
