import { type ChildProcess, spawn } from 'node:child_process';
import { createServer } from 'node:net';
import { join } from 'node:path';

const REPOSITORY = join(import.meta.dirname, '../../..');
const START_MS = 40_000;

/** A server in a process of its own, to be killed. */
export interface SpawnedServer {
  /** Where its interface of requests begins, without a slash at the end. */
  api: string;
  process: ChildProcess;
  /** What it wrote to its standard error so far. */
  errors(): string;
  /** Ends it at once, as a power cut would end it for the program. */
  kill(): Promise<void>;
}

const freePort = (): Promise<number> =>
  new Promise((resolve, reject) => {
    const probe = createServer();
    probe.once('error', reject);
    probe.listen(0, '127.0.0.1', () => {
      const address = probe.address();
      probe.close(() => resolve(typeof address === 'object' && address ? address.port : 0));
    });
  });

/** Starts a server over a data folder; `limitBlocks` limits the files that it may write, in blocks of 1024 bytes. */
export const spawnServer = async (dataFolder: string, options: { limitBlocks?: number } = {}): Promise<SpawnedServer> => {
  const port = await freePort();
  const { limitBlocks } = options;
  const command = 'exec "$NODE" --import tsx server/src/main.ts';
  const limited = limitBlocks === undefined ? command : `ulimit -f ${limitBlocks}; ${command}`;
  const child = spawn('bash', ['-c', limited], {
    cwd: REPOSITORY,
    env: { ...process.env, NODE: process.execPath, PORT: String(port), ISOCHRON_DATA: dataFolder, LOG_LEVEL: 'silent' },
    stdio: ['ignore', 'ignore', 'pipe'],
  });
  let errors = '';
  child.stderr.on('data', (data: Buffer) => {
    errors += data.toString();
  });
  const api = `http://127.0.0.1:${port}/api`;
  const ended = new Promise<void>((resolve) => {
    child.once('exit', () => resolve());
  });
  const server: SpawnedServer = {
    api,
    process: child,
    errors: () => errors,
    async kill() {
      child.kill('SIGKILL');
      await ended;
    },
  };
  const giveUp = Date.now() + START_MS;
  for (;;) {
    if (child.exitCode !== null) return server;
    const isUp = await fetch(`${api}/health`).then(
      () => true,
      () => false,
    );
    if (isUp) return server;
    if (Date.now() > giveUp) throw new Error(`The server did not start: ${errors}`);
    await new Promise((resolve) => setTimeout(resolve, 50));
  }
};
