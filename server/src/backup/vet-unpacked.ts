/** The process that looks through an unpacked database: asked once by its parent, it answers once and ends. */
import { extname, join } from 'node:path';
import { connectToRead } from '../database/connection';
import { openStore, type Store } from '../database/open';
import { allProblems } from '../database/page-check';
import { deriveStored } from '../derive-stored';
import { OWN_KEYS } from '../own-keys';
import { DATABASE_NAME } from './manifest';
import { type VetAnswer, type VetRequest, VetRequestSchema } from './vet-backup';
import { wrongRow } from './vet-rows';
import { whoseSchema } from './vet-schema';

/** Gives every file of sound its new name in the rows; those that were missing when the backup was made are not mentioned any more. */
const renameSounds = (store: Store, { files, missing, mark }: VetRequest): Promise<{ from: string; to: string }[] | null> =>
  store.write(async (transaction) => {
    const { models } = store;
    const came = new Set(files);
    const renamed: { from: string; to: string }[] = [];
    for (const row of await models.recordings.findAll({ transaction })) {
      const { takeId, file } = row.get({ plain: true });
      if (came.has(file)) {
        const to = `${takeId}.${mark}${extname(file)}`;
        renamed.push({ from: file, to });
        await models.recordings.update({ file: to }, { where: { takeId }, transaction });
      } else if (missing.includes(file)) {
        await models.recordings.destroy({ where: { takeId }, transaction });
        await models.takes.update({ hasRecording: false }, { where: { id: takeId }, transaction });
      } else return null;
    }
    for (const row of await models.accompaniments.findAll({ transaction })) {
      const { id, file } = row.get({ plain: true });
      if (came.has(file)) {
        const to = `${id}.${mark}${extname(file)}`;
        renamed.push({ from: file, to });
        await models.accompaniments.update({ file: to }, { where: { id }, transaction });
      } else if (missing.includes(file)) await models.accompaniments.destroy({ where: { id }, transaction });
      else return null;
    }
    // What the server remembers for itself is of the place that the backup came from.
    await models.settings.destroy({ where: { key: OWN_KEYS }, transaction });
    // One file in two places is nothing that a backup of ours has.
    return new Set(renamed.map(({ from }) => from)).size === renamed.length ? renamed : null;
  });

const vet = async (request: VetRequest): Promise<VetAnswer> => {
  const { folder } = request;
  const file = join(folder, DATABASE_NAME);
  // Before anything is read but the list of its tables.
  const raw = connectToRead(file);
  try {
    const whose = await whoseSchema(raw);
    if (whose !== 'ours') return { refused: whose };
    if ((await allProblems(raw)).length > 0) return { refused: 'damaged' };
  } catch {
    return { refused: 'damaged' };
  } finally {
    await raw.close();
  }
  const store = await openStore(folder);
  try {
    if ((await wrongRow(store)) !== null) return { refused: 'not ours' };
    const renamed = await renameSounds(store, request);
    if (!renamed) return { refused: 'not ours' };
    await deriveStored(store);
    await store.database.query('PRAGMA wal_checkpoint(TRUNCATE)');
    return { renamed };
  } finally {
    await store.close();
  }
};

process.once('message', async (message) => {
  const answer = await vet(VetRequestSchema.parse(message)).catch((): VetAnswer => ({ refused: 'damaged' }));
  process.send?.(answer, () => process.exit(0));
});
