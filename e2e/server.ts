import { type ChildProcess, spawn } from 'node:child_process';
import { join } from 'node:path';
import { createInterface } from 'node:readline';

const ROOT = join(import.meta.dirname, '..');
const SAYS = /Isochron is at http:\/\/localhost:(\d+)/;
const START_MS = 120_000;

/** A server of a test's own. */
export interface TestServer {
  port: number;
  origin: string;
  /** Ends it at once, as a power cut would. */
  kill(): Promise<void>;
  /** Ends it in order. */
  stop(): Promise<void>;
}

const ended = (server: ChildProcess, signal: NodeJS.Signals): Promise<void> =>
  new Promise((resolve) => {
    if (server.exitCode !== null || server.signalCode !== null) return resolve();
    server.once('exit', () => resolve());
    server.kill(signal);
  });

/**
 * Starts a server on a folder; it takes a free port unless one is given.
 *
 * @param env what it is started with besides, such as `ISOCHRON_NOW`.
 */
export const startServer = async (folder: string, env: Record<string, string> = {}, port = 0): Promise<TestServer> => {
  const server = spawn(process.execPath, ['--import', 'tsx', 'server/src/main.ts'], {
    cwd: ROOT,
    env: { ...process.env, PORT: String(port), ISOCHRON_DATA: folder, ISOCHRON_DEMO: '0', ...env },
    stdio: ['ignore', 'pipe', 'inherit'],
  });
  const given = await new Promise<number>((resolve, reject) => {
    const tooLate = setTimeout(() => {
      server.kill('SIGKILL');
      reject(new Error('The server does not start.'));
    }, START_MS);
    server.once('exit', (code) => reject(new Error(`The server ended with ${code}.`)));
    createInterface({ input: server.stdout }).on('line', (line) => {
      const said = SAYS.exec(line);
      if (!said) return;
      clearTimeout(tooLate);
      resolve(Number(said[1]));
    });
  });
  return {
    port: given,
    origin: `http://localhost:${given}`,
    kill: () => ended(server, 'SIGKILL'),
    stop: () => ended(server, 'SIGTERM'),
  };
};
