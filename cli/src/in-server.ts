import { spawnSync } from 'node:child_process';
import { fileURLToPath } from 'node:url';

/** The server's own command line, as seen from the bundle in cli/dist. */
const COMMAND = fileURLToPath(new URL('../../scripts/server-command.mjs', import.meta.url));

/** Runs a command that needs the database: in the server's program, which has the driver. It prints its own words. */
export const inServer = (name: string, args: readonly string[]): string => {
  const { status } = spawnSync(process.execPath, [COMMAND, name, ...args], { stdio: 'inherit' });
  process.exitCode = status ?? 1;
  return '';
};
