import { execFileSync } from 'node:child_process';
import { once } from 'node:events';
import { mkdtemp, readdir, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { pathToFileURL } from 'node:url';
import { API, ENGINE_VERSION } from '@isochron/core/schema';
import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import { createReanalyser } from '../reanalysis/reanalysis';
import { holdDatabase } from '../testing/hold-database';
import { makeOne, makeWav, PRACTICE_SESSION, sendJson, sendWav } from '../testing/made-takes';
import { openServer } from '../testing/open-server';
import { mountSmallDisk, unmountSmallDisk } from '../testing/small-disk';
import { spawnServer } from '../testing/spawn-server';

let folder: string;
beforeEach(async () => {
  folder = await mkdtemp(join(tmpdir(), 'isochron-held-'));
});
afterEach(() => rm(folder, { recursive: true, force: true }));

const messageOf = async (answer: Response) => ((await answer.json()) as { message: string }).message;

describe('a database that another program holds', () => {
  it('is a sentence for everybody who writes, however many wait; what is there can be read; then all goes on', async () => {
    const server = await openServer();
    try {
      const letGo = await holdDatabase(server.folder);
      // The last in line is told with the first: nobody waits once for each who came before.
      const writes = Array.from({ length: 12 }, () => sendJson(`${server.api}/settings`, 'PATCH', { announce: false }));
      const inTime = await Promise.race([
        Promise.all(writes),
        new Promise<null>((resolve) => setTimeout(() => resolve(null), 15_000)),
      ]);
      expect(inTime?.map(({ status }) => status)).toEqual(writes.map(() => 503));
      for (const answer of inTime ?? []) expect(await messageOf(answer)).toContain('Another program holds Isochron’s database');
      const health = API.health.parse(await (await fetch(`${server.api}/health`)).json());
      expect(health.storage).toContain('Another program holds');
      expect((await fetch(`${server.api}/passages`)).status).toBe(200);
      await letGo();
      expect((await sendJson(`${server.api}/settings`, 'PATCH', { announce: false })).status).toBe(200);
      expect(API.health.parse(await (await fetch(`${server.api}/health`)).json()).storage).toBe('');
    } finally {
      await server.close();
    }
  });
});

describe('a folder that was left in order, on a disk that is for reading only', () => {
  it('opens, shows what is there, and says that nothing can be stored', async ({ skip }) => {
    try {
      mountSmallDisk(folder, 16);
    } catch {
      skip('Only the machine’s owner may mount a disk.');
    }
    try {
      const first = await spawnServer(folder);
      const take = makeOne();
      await sendJson(`${first.api}/sessions/${PRACTICE_SESSION.id}`, 'PUT', PRACTICE_SESSION);
      expect((await sendJson(`${first.api}/takes/${take.id}`, 'PUT', take)).status).toBe(200);
      first.process.kill('SIGTERM');
      await once(first.process, 'exit');
      // Left in order: nothing stands beside the database.
      expect((await readdir(folder)).filter((name) => /-(wal|shm)$/.test(name))).toEqual([]);
      execFileSync('mount', ['-o', 'remount,ro', folder]);
      const server = await spawnServer(folder);
      expect(server.errors()).toBe('');
      expect((await fetch(`${server.api}/takes/${take.id}`)).status).toBe(200);
      expect((await fetch(`${server.api}/integrity`)).status).toBe(200);
      const answer = await sendJson(`${server.api}/settings`, 'PATCH', { announce: false });
      expect(answer.status).toBe(507);
      expect(await messageOf(answer)).toContain('cannot be written');
      expect(API.health.parse(await (await fetch(`${server.api}/health`)).json()).storage).toContain('cannot be written');
      await server.kill();
    } finally {
      unmountSmallDisk(folder);
    }
  });
});

describe('a thread that measures anew', () => {
  /** A worker's code of its own. */
  const worker = async (code: string): Promise<URL> => {
    const file = join(folder, 'worker.mjs');
    await writeFile(file, code);
    return pathToFileURL(file);
  };

  it.each([
    [
      'fails while it is asked',
      `import { parentPort } from 'node:worker_threads'; parentPort.on('message', () => { throw new Error('lost'); });`,
    ],
    ['fails before it is asked', `throw new Error('lost at the start');`],
    ['ends by itself', `import { parentPort } from 'node:worker_threads'; parentPort.once('message', () => process.exit(3));`],
    [
      'fails after it answered',
      `import { parentPort } from 'node:worker_threads';
       parentPort.on('message', () => { parentPort.postMessage({ type: 'failed', message: 'no sound' }); setTimeout(() => { throw new Error('late'); }, 5); });`,
    ],
  ])('and %s says so, and ends neither the others nor the server', async (_what, code) => {
    const server = await openServer();
    try {
      await sendJson(`${server.api}/sessions/${PRACTICE_SESSION.id}`, 'PUT', PRACTICE_SESSION);
      for (let k = 0; k < 2; k += 1) {
        const take = { ...makeOne(), engine: 'before' };
        expect((await sendJson(`${server.api}/takes/${take.id}`, 'PUT', take)).status).toBe(200);
        await sendWav(`${server.api}/takes/${take.id}/recording`, makeWav(k));
      }
      const reanalyser = createReanalyser(server.store, await worker(code));
      await reanalyser.start();
      let state = await reanalyser.state();
      for (; state.running; state = await reanalyser.state()) await new Promise((resolve) => setTimeout(resolve, 10));
      await new Promise((resolve) => setTimeout(resolve, 50));
      expect(state).toMatchObject({ done: 2, of: 2, due: 2 });
      expect(state.message).toMatch(/^One take could not be measured again and keeps its old figures: /);
      expect((await fetch(`${server.api}/health`)).status).toBe(200);
      expect(ENGINE_VERSION).not.toBe('before');
    } finally {
      await server.close();
    }
  });
});
