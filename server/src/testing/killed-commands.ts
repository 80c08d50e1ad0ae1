import { createWriteStream } from 'node:fs';
import { cp, mkdtemp, readdir, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { Readable } from 'node:stream';
import { BUILT_IN_PASSAGES } from '@isochron/core/material';
import type { Take } from '@isochron/core/schema';
import { sweepBackups } from '../backup/backup-desk';
import { finishRestore } from '../backup/finish-restore';
import { writeBackup } from '../backup/write-backup';
import { openStore, type Store } from '../database/open';
import { checkRows } from '../integrity/check-rows';
import { checkSounds } from '../integrity/sound-files';
import { storeMissingPassages } from '../passages';
import { putPracticeSession } from '../practice-sessions';
import { putRecording, sweepRecordings } from '../recordings';
import { getTake, putTake } from '../takes';
import { makeOne, makeWav, PRACTICE_SESSION } from './made-takes';
import { runCommand } from './run-command';

/** What a data folder holds, to be compared with another. */
const contentOf = async (store: Store): Promise<string> => {
  const ids = (await store.models.takes.findAll({ attributes: ['id'], order: ['id'] })).map((row) => row.get('id') as string);
  const takes = await Promise.all(ids.map(async (id) => getTake(store, id)));
  const sounds = (await store.models.recordings.findAll({ order: ['takeId'] })).map((row) => row.get({ plain: true }));
  return JSON.stringify([takes, sounds.map(({ takeId, bytes, sha256 }) => [takeId, bytes, sha256])]);
};

/** What is not in order in an open store: damaged rows, files without rows, rows without files. */
const disorderOf = async (store: Store): Promise<string[]> => {
  const { damaged } = await checkRows(store);
  const { missing, damaged: broken, unclaimed } = await checkSounds(store, new AbortController().signal);
  return [...damaged, ...missing, ...broken, ...unclaimed].map((one) => JSON.stringify(one));
};

const filled = async (folder: string, count: number, seed: number): Promise<string> => {
  const store = await openStore(folder);
  await storeMissingPassages(store, BUILT_IN_PASSAGES);
  await putPracticeSession(store, PRACTICE_SESSION);
  const takes: Take[] = Array.from({ length: count }, () => makeOne());
  for (const [k, take] of takes.entries()) {
    await putTake(store, take);
    if (k % 2 === 0) await putRecording(store, take.id, Readable.from([Buffer.from(makeWav(seed + k, 9000))]));
  }
  const content = await contentOf(store);
  await store.close();
  return content;
};

/** How things stood after a command was killed and the next start had looked after it. */
export type AfterKill = 'as before' | 'as in the backup' | string;

/** Two data folders, the one backed up and to be put in the place of the other; commands are killed over copies of them. */
export const createKilledCommands = async () => {
  const folder = await mkdtemp(join(tmpdir(), 'isochron-killed-'));
  const [source, target] = [join(folder, 'source'), join(folder, 'target')];
  const archive = join(folder, 'all.zip');
  const [sent, own] = [await filled(source, 4, 10), await filled(target, 3, 50)];
  await writeBackup(source, createWriteStream(archive));

  /** Runs a command over a copy of the target, and looks at what a start then makes of it. */
  const kill = async (command: 'restore' | 'backup', step: number): Promise<AfterKill> => {
    const copy = await mkdtemp(join(folder, 'copy-'));
    try {
      await cp(target, copy, { recursive: true });
      const made = join(copy, 'made.zip');
      const { code } = await runCommand(copy, command === 'restore' ? ['restore', archive] : ['backup', made], step);
      if (command === 'backup' && code === null && (await readdir(copy)).includes('made.zip')) {
        // Under its own name it is whole, however late the end came.
        const check = await mkdtemp(join(folder, 'check-'));
        const restored = await runCommand(check, ['restore', made]);
        await rm(check, { recursive: true });
        if (restored.code !== 0) return `a backup that is not whole: ${restored.errors}`;
      }
      const store = await openStore(copy);
      try {
        await finishRestore(store);
        await sweepRecordings(store);
        await sweepBackups(copy);
        const disorder = await disorderOf(store);
        if (disorder.length > 0) return disorder.join();
        const content = await contentOf(store);
        if (content === own) return 'as before';
        if (content !== sent) return 'neither the one nor the other';
        const [before] = (await readdir(copy)).filter((name) => name.startsWith('before-restore-'));
        const kept = await openStore(join(copy, before ?? 'nowhere'));
        const isKept = (await contentOf(kept)) === own && (await disorderOf(kept)).length === 0;
        await kept.close();
        return isKept ? 'as in the backup' : 'what was there before is not all there';
      } finally {
        await store.close();
      }
    } finally {
      await rm(copy, { recursive: true, force: true });
    }
  };

  return {
    /** How many steps a command has. */
    async steps(command: 'restore' | 'backup'): Promise<number> {
      const copy = await mkdtemp(join(folder, 'copy-'));
      await cp(target, copy, { recursive: true });
      const { steps } = await runCommand(copy, [command, command === 'restore' ? archive : join(copy, 'made.zip')]);
      await rm(copy, { recursive: true });
      return steps;
    },
    kill,
    close: () => rm(folder, { recursive: true, force: true }),
  };
};
