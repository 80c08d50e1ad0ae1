import { rm } from 'node:fs/promises';
import { join } from 'node:path';
import type { Readable } from 'node:stream';
import { type Accompaniment, AccompanimentSchema, LARGEST_ACCOMPANIMENT_BYTES } from '@isochron/core/schema';
import type { Store } from './database/open';
import { isIntact } from './database/seal';
import { storeWhole } from './recordings';
import { RequestError } from './request-error';
import { type SoundState, soundState } from './sound-check';

/** As the sound was brought, in whatever form: only the browser knows what it can decode. */
const ENDING = '.sound';

/** Every recording to play along with, by title. One that cannot be read hides only itself. */
export const listAccompaniments = async ({ models, unreadable }: Store): Promise<Accompaniment[]> =>
  (await models.accompaniments.findAll({ order: [['title', 'ASC']] })).flatMap((row) => {
    const { title, document } = row.get({ plain: true });
    return unreadable.read('accompaniment', title, AccompanimentSchema, isIntact(row) && document) ?? [];
  });

/** A recording to play along with. Throws a RequestError where there is none (404), or it cannot be read (422). */
export const getAccompaniment = async ({ models, unreadable }: Store, id: string): Promise<Accompaniment> => {
  const row = await models.accompaniments.findByPk(id);
  if (!row) throw new RequestError(404, 'This recording is not here any more.');
  const { title, document } = row.get({ plain: true });
  const read = unreadable.read('accompaniment', title, AccompanimentSchema, isIntact(row) && document);
  if (!read) throw new RequestError(422, 'This recording cannot be read. What is stored of it is left as it is.');
  return read;
};

/** Stores a new recording and its sound, both or neither. Throws a RequestError. */
export const addAccompaniment = async (
  store: Store,
  accompaniment: Accompaniment,
  source: Readable,
  announcedBytes: number | null,
): Promise<Accompaniment> => {
  const { id, title } = accompaniment;
  if (announcedBytes !== null && announcedBytes > LARGEST_ACCOMPANIMENT_BYTES)
    throw new RequestError(413, 'The recording is larger than 300 MB and was not stored. Cut out the part you want.');
  const file = `${id}${ENDING}`;
  const document = { ...accompaniment, revision: 1 };
  await storeWhole(store, file, source, { announcedBytes, mostBytes: LARGEST_ACCOMPANIMENT_BYTES }, (known, transaction) => {
    if (known.bytes === 0) throw new RequestError(400, 'The recording is empty.');
    const row = { id, title, revision: 1, file, ...known, document };
    return store.models.accompaniments.upsert(row, { transaction });
  });
  return document;
};

/** Changes a recording's title and beats. Throws a RequestError where there is none (404), or another revision is stored (412). */
export const putAccompaniment = ({ models, write }: Store, accompaniment: Accompaniment): Promise<Accompaniment> =>
  write(async (transaction) => {
    const { id, title, revision } = accompaniment;
    const row = (await models.accompaniments.findByPk(id, { transaction }))?.get({ plain: true });
    if (!row) throw new RequestError(404, 'This recording is not here any more.');
    if (row.revision !== revision)
      throw new RequestError(
        412,
        'The beats of this recording were changed elsewhere meanwhile. Load the page again to see them.',
      );
    const document = { ...accompaniment, revision: revision + 1 };
    await models.accompaniments.update({ title, revision: document.revision, document }, { where: { id }, transaction });
    return document;
  });

/** The file of a recording's sound, and how it is on the disk. Throws a RequestError (404) where there is none. */
export const soundOf = async (
  { models, recordingsFolder }: Store,
  id: string,
): Promise<{ path: string; state: SoundState }> => {
  const row = (await models.accompaniments.findByPk(id))?.get({ plain: true });
  if (!row) throw new RequestError(404, 'This recording is not here any more.');
  const path = join(recordingsFolder, row.file);
  return { path, state: await soundState(path, row) };
};

/** Removes a recording and its sound. What was played along with it keeps its beats. */
export const removeAccompaniment = async (store: Store, id: string): Promise<void> => {
  const file = (await store.models.accompaniments.findByPk(id, { attributes: ['file'] }))?.get('file') as string | undefined;
  if (!file) throw new RequestError(404, 'This recording is not here any more.');
  await store.write((transaction) => store.models.accompaniments.destroy({ where: { id }, transaction }));
  await rm(join(store.recordingsFolder, file), { force: true });
};
