import { spawn } from 'node:child_process';
import { randomUUID } from 'node:crypto';
import { once } from 'node:events';
import { readFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { bundle, bundled } from '../../../scripts/bundle.mjs';

bundle('server');

const SOURCES = join(import.meta.dirname, '..');

/** What a command of the server's came to. */
export interface RanCommand {
  /** Null where it was killed. */
  code: number | null;
  out: string;
  errors: string;
  /** How many things it did to files and database. */
  steps: number;
}

/** Runs a command of the server's (backup, restore, recover) over a data folder; `killAt` ends it at one of its steps. */
export const runCommand = async (dataFolder: string, args: readonly string[], killAt = 0): Promise<RanCommand> => {
  const countFile = join(tmpdir(), `isochron-steps-${randomUUID()}`);
  const child = spawn(
    process.execPath,
    ['--import', join(SOURCES, 'testing/kill-at.mjs'), bundled('server', 'command'), ...args],
    {
      cwd: join(SOURCES, '../..'),
      env: { ...process.env, ISOCHRON_DATA: dataFolder, KILL_AT: String(killAt), COUNT_FILE: countFile },
    },
  );
  let [out, errors] = ['', ''];
  child.stdout.on('data', (data: Buffer) => {
    out += data;
  });
  child.stderr.on('data', (data: Buffer) => {
    errors += data;
  });
  const [code] = (await once(child, 'close')) as [number | null];
  const steps = Number(await readFile(countFile, 'utf8').catch(() => '0'));
  return { code, out, errors, steps };
};
