// Loaded before a program (--import): counts everything that it does to its files and its database, and ends it at the one whose
// number KILL_AT names, before it is done; with KILL_AT=0 the count is written to COUNT_FILE at the end.
import { writeFileSync } from 'node:fs';
import promises from 'node:fs/promises';
import { createRequire, syncBuiltinESMExports } from 'node:module';

const at = Number(process.env.KILL_AT ?? 0);
let steps = 0;
const step = () => {
  steps += 1;
  if (steps === at) process.kill(process.pid, 'SIGKILL');
};
const counted = (owner, name) => {
  const own = owner[name];
  owner[name] = function (...args) {
    step();
    return own.apply(this, args);
  };
};
for (const name of ['rename', 'rm', 'mkdir', 'copyFile', 'truncate', 'open', 'writeFile']) counted(promises, name);
syncBuiltinESMExports();
const { Database } = createRequire(import.meta.url)('sqlite3');
for (const name of ['run', 'all', 'exec', 'close']) counted(Database.prototype, name);
if (process.env.COUNT_FILE) process.on('exit', () => writeFileSync(process.env.COUNT_FILE, String(steps)));
