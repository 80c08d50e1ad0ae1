import { spawn } from 'node:child_process';
import { once } from 'node:events';
import { join } from 'node:path';

const HOLD = `
  const sqlite3 = require('sqlite3');
  const database = new sqlite3.Database(process.argv[1], () => {
    database.exec('BEGIN IMMEDIATE', (error) => process.stdout.write(error ? error.message : 'held'));
  });
  process.stdin.on('end', () => process.exit(0)).resume();
`;

/** Has a second program hold a data folder's database, as one does in which a change is left open. Gives back how to end that. */
export const holdDatabase = async (dataFolder: string): Promise<() => Promise<void>> => {
  const child = spawn(process.execPath, ['-e', HOLD, join(dataFolder, 'isochron.db')], {
    cwd: join(import.meta.dirname, '../..'),
    stdio: ['pipe', 'pipe', 'inherit'],
  });
  const [said] = (await once(child.stdout, 'data')) as [Buffer];
  if (said.toString() !== 'held') throw new Error(`The database could not be held: ${said}`);
  return async () => {
    child.stdin.end();
    await once(child, 'exit');
  };
};
