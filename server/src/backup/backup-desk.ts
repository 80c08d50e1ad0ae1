import { randomUUID } from 'node:crypto';
import { createWriteStream } from 'node:fs';
import { readdir, rm } from 'node:fs/promises';
import { join } from 'node:path';
import type { Readable, Writable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import type { BackupState } from '@isochron/core/schema';
import { countingStream } from '../counting-stream';
import type { Store } from '../database/open';
import { RequestError } from '../request-error';
import { type Restored, restoreBackup } from './restore-backup';
import { writeBackup } from './write-backup';

/** Backups and restores of a store, one at a time, with how far each has come. */
export interface BackupDesk {
  state(): BackupState;
  /** Writes a backup to a reader that may leave at any time. */
  backUp(out: Writable): Promise<void>;
  /** Takes a backup of so many bytes and puts it in the place of everything; stops while it may where the sender leaves. */
  restore(source: Readable, ofBytes: number): Promise<Restored>;
}

const IDLE: BackupState = { doing: 'nothing', doneBytes: 0, ofBytes: 0, message: '' };

/** Makes a {@link BackupDesk}; `onRestored` is told when other rows are in their place. */
export const createBackupDesk = (store: Store, onRestored: () => Promise<void> = async () => {}): BackupDesk => {
  let state = IDLE;

  const alone = async <Result>(doing: BackupState['doing'], work: () => Promise<Result>): Promise<Result> => {
    if (state.doing !== 'nothing')
      throw new RequestError(409, 'A backup or a restore is under way already. Wait for it, or stop it.');
    state = { ...IDLE, doing };
    let message = '';
    try {
      return await work();
    } catch (error) {
      message = error instanceof RequestError ? error.message : 'It was broken off. Nothing was changed.';
      throw error;
    } finally {
      state = { ...IDLE, message };
    }
  };

  const onProgress = (doneBytes: number, ofBytes: number) => {
    state = { ...state, doneBytes, ofBytes };
  };

  return {
    state: () => state,
    backUp: (out) =>
      alone('backing up', async () => {
        await writeBackup(store.dataFolder, out, onProgress);
      }),
    restore: (source, ofBytes) =>
      alone('receiving', async () => {
        const file = join(store.dataFolder, `restore-${randomUUID()}.zip`);
        try {
          let received = 0;
          const { stream } = countingStream((bytes) => {
            received += bytes;
            onProgress(received, ofBytes);
          });
          await pipeline(source, stream, createWriteStream(file, { flags: 'wx' }));
          state = { ...state, doing: 'restoring', doneBytes: 0 };
          const restored = await restoreBackup(store, file, onProgress);
          await onRestored();
          return restored;
        } finally {
          await rm(file, { force: true });
        }
      }),
  };
};

/** What a backup or a restore that was killed left behind. */
const LEFT = /^(backup-[0-9a-f-]{36}\.db|restore-[0-9a-f-]{36}(\.zip)?)(-wal|-shm|-journal)?$/;

/** Removes what backups and restores that were broken off left behind. Only before any is begun. */
export const sweepBackups = async (dataFolder: string): Promise<void> => {
  for (const name of await readdir(dataFolder))
    if (LEFT.test(name)) await rm(join(dataFolder, name), { recursive: true, force: true });
};
