import { createWriteStream } from 'node:fs';
import { mkdir, mkdtemp, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { Readable } from 'node:stream';
import { BUILT_IN_PASSAGES } from '@isochron/core/material';
import { restoreBackup } from '../backup/restore-backup';
import { writeBackup } from '../backup/write-backup';
import { openStore, type Store } from '../database/open';
import { checkRows } from '../integrity/check-rows';
import { storeMissingPassages } from '../passages';
import { putPracticeSession } from '../practice-sessions';
import { putRecording } from '../recordings';
import { RequestError } from '../request-error';
import { listTakes } from '../take-lists';
import { putTake } from '../takes';
import { diskListing } from './disk-listing';
import { makeHostile, makeMutated, type Parts, takeApart } from './hostile-backups';
import { makeOne, makeWav, PRACTICE_SESSION } from './made-takes';

const fill = async (folder: string, count: number): Promise<Store> => {
  const store = await openStore(folder);
  await storeMissingPassages(store, BUILT_IN_PASSAGES);
  await putPracticeSession(store, PRACTICE_SESSION);
  for (let k = 0; k < count; k += 1) {
    const take = makeOne();
    await putTake(store, take);
    await putRecording(store, take.id, Readable.from([Buffer.from(makeWav(k, 3000))]));
  }
  return store;
};

/** What came of a backup that was not to be trusted: a sentence why it was refused, or that it was restored; and what went wrong. */
export interface Attacked {
  refused: string | null;
  /** Empty, or what should not have happened. */
  wrong: string;
}

/** A store with neighbours on the disk, into which backups are restored that are not to be trusted. */
export const createAttackedStore = async () => {
  const outer = await mkdtemp(join(tmpdir(), 'isochron-attacked-'));
  const [dataFolder, sourceFolder, work] = ['deep/er/data', 'source', 'work'].map((name) => join(outer, name)) as [
    string,
    string,
    string,
  ];
  await mkdir(work);
  const secret = join(outer, 'secret.txt');
  for (const path of [secret, join(outer, 'deep/secret.txt'), join(outer, 'deep/er/secret.txt')]) {
    await mkdir(join(path, '..'), { recursive: true });
    await writeFile(path, 'Not yours.');
  }
  const source = await fill(sourceFolder, 2);
  const whole = join(work, 'whole.zip');
  await writeBackup(sourceFolder, createWriteStream(whole));
  await source.close();
  const parts: Parts = await takeApart(whole);
  const store = await fill(dataFolder, 3);
  const archive = join(work, 'hostile.zip');

  const ids = async () =>
    (await store.models.takes.findAll({ attributes: ['id'], order: ['id'] })).map((row) => String(row.get('id')));
  const outside = () => diskListing(outer, /^(work|deep\/er\/data)(\/|$)/);
  const inside = () => diskListing(dataFolder, /^isochron\.db|^before-restore-/);

  /** Restores what `make` made. */
  const attack = async (make: () => Promise<void>): Promise<Attacked> => {
    await make();
    const before = { ids: await ids(), inside: await inside(), outside: await outside() };
    let refused: string | null = null;
    try {
      await restoreBackup(store, archive);
    } catch (error) {
      if (!(error instanceof RequestError)) return { refused, wrong: `no refusal: ${(error as Error).stack}` };
      refused = error.message;
    }
    const wrong: string[] = [];
    if ((await outside()).join('\n') !== before.outside.join('\n')) wrong.push('something outside of the folder was touched');
    if (refused !== null) {
      if ((await ids()).join() !== before.ids.join()) wrong.push('refused, but takes are others');
      if ((await inside()).join('\n') !== before.inside.join('\n')) wrong.push('refused, but files are others');
    }
    // Whatever was restored can be read, or says that it cannot.
    await listTakes(store, { show: 'all', text: '', sort: 'startedAt', order: 'desc', limit: 200, offset: 0 });
    await checkRows(store);
    await rm(archive, { force: true });
    return { refused, wrong: wrong.join('; ') };
  };

  return {
    hostile: (kind: string, seed: number) => attack(() => makeHostile(kind, seed, parts, { archive, folder: work, secret })),
    mutated: (seed: number) => attack(() => makeMutated(seed, parts, whole, archive)),
    async close() {
      await store.close();
      await rm(outer, { recursive: true, force: true });
    },
  };
};
