import { type ChildProcess, spawn } from 'node:child_process';
import { createServer } from 'node:net';
import { join } from 'node:path';
import { bundle, bundled } from '../../../scripts/bundle.mjs';

// As it is started by everyone, whoever asks for it here.
bundle('server');

const REPOSITORY = join(import.meta.dirname, '../../..');
/** On a machine that has other things to do, with the demo's data to be made. */
const START_MS = 300_000;

/** A server in a process of its own, to be killed. */
export interface SpawnedServer {
  port: number;
  /** Where its pages are, without a slash at the end. */
  origin: string;
  /** Where its interface of requests begins, without a slash at the end. */
  api: string;
  process: ChildProcess;
  /** What it wrote to its standard error so far. */
  errors(): string;
  /** Ends it at once, as a power cut would end it for the program. */
  kill(): Promise<void>;
  /** Ends it in order. */
  stop(): Promise<void>;
}

interface SpawnOptions {
  /** Limits the files that it may write, in blocks of 1024 bytes. */
  limitBlocks?: number;
  /** The port that it takes; a free one where none is given. */
  port?: number;
  /** What it is started with besides, such as `ISOCHRON_NOW`. */
  env?: Record<string, string>;
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

/** Starts a server over a data folder; it answers by now, or has ended with its reason among its errors. */
export const spawnServer = async (dataFolder: string, options: SpawnOptions = {}): Promise<SpawnedServer> => {
  const { limitBlocks, port = await freePort(), env = {} } = options;
  const command = 'exec "$NODE" "$PROGRAM"';
  const limited = limitBlocks === undefined ? command : `ulimit -f ${limitBlocks}; ${command}`;
  const child = spawn('bash', ['-c', limited], {
    cwd: REPOSITORY,
    env: {
      ...process.env,
      NODE: process.execPath,
      PROGRAM: bundled('server', 'main'),
      PORT: String(port),
      ISOCHRON_DATA: dataFolder,
      LOG_LEVEL: 'silent',
      ...env,
    },
    stdio: ['ignore', 'ignore', 'pipe'],
  });
  let errors = '';
  child.stderr.on('data', (data: Buffer) => {
    errors += data.toString();
  });
  const api = `http://127.0.0.1:${port}/api`;
  const end = async (signal: NodeJS.Signals) => {
    child.kill(signal);
    await ended;
  };
  const ended = new Promise<void>((resolve) => {
    child.once('exit', () => resolve());
  });
  const server: SpawnedServer = {
    port,
    origin: `http://localhost:${port}`,
    api,
    process: child,
    errors: () => errors,
    kill: () => end('SIGKILL'),
    stop: () => end('SIGTERM'),
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
