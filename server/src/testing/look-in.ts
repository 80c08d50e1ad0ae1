import { execFile } from 'node:child_process';
import { join } from 'node:path';
import { promisify } from 'node:util';

// Each opens a database as a program does that shows databases, reads, and closes it; so it may clear away what it takes for left over.
// Two, since versions of SQLite differ in that: the driver's own, and the machine's, by the Python that builds the driver.
const BY_NODE = `
  const sqlite3 = require('sqlite3');
  const done = (error, rows) => process.stdout.write(JSON.stringify({ error: error?.message ?? null, takes: rows?.[0]?.takes ?? null }));
  const database = new sqlite3.Database(process.argv[1], (error) => {
    if (error) return done(error);
    database.all('SELECT count(*) AS takes FROM takes', (failed, rows) => database.close(() => done(failed, rows)));
  });
`;
const BY_PYTHON = `
import json, sqlite3, sys
try:
    database = sqlite3.connect(sys.argv[1])
    takes = database.execute('SELECT count(*) FROM takes').fetchone()[0]
    database.close()
    print(json.dumps({'error': None, 'takes': takes}))
except sqlite3.Error as error:
    print(json.dumps({'error': str(error), 'takes': None}))
`;

/** What a second program sees: how many takes, or what it says. */
export interface SeenInside {
  error: string | null;
  takes: number | null;
}

const run = promisify(execFile);
const LOOKERS = [
  (file: string) => run(process.execPath, ['-e', BY_NODE, file], { cwd: join(import.meta.dirname, '../..') }),
  (file: string) => run('python3', ['-c', BY_PYTHON, file]),
];

/** Has other programs look into a data folder's database, one after the other. */
export const lookIn = async (dataFolder: string): Promise<SeenInside[]> => {
  const seen: SeenInside[] = [];
  for (const look of LOOKERS) seen.push(JSON.parse((await look(join(dataFolder, 'isochron.db'))).stdout) as SeenInside);
  return seen;
};
