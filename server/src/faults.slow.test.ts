import { execFileSync } from 'node:child_process';
import { mkdtemp, readdir, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { API } from '@isochron/core/schema';
import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import { createFaultRun, type Fault } from './testing/faults';
import { makeOne, makeWav, PRACTICE_SESSION, sendJson, sendWav } from './testing/made-takes';
import { mountSmallDisk, unmountSmallDisk } from './testing/small-disk';
import { spawnServer } from './testing/spawn-server';

let folder: string;
beforeEach(async () => {
  folder = await mkdtemp(join(tmpdir(), 'isochron-faults-'));
});
afterEach(() => rm(folder, { recursive: true, force: true }));

/** Whether a small disk of its own can be had here: only the machine's owner may. */
const smallDisk = (at: string): boolean => {
  try {
    mountSmallDisk(at, 8);
    return true;
  } catch {
    return false;
  }
};

describe('nothing that was acknowledged is lost, nothing half, nothing blocked', () => {
  const through = async (faults: readonly Fault[]) => {
    const run = await createFaultRun(folder, 20261125);
    try {
      for (const fault of faults) await run.injectOne(fault);
    } finally {
      await run.close();
    }
    for (const count of run.counts()) {
      expect(count).toMatchObject({ lost: 0, half: 0, blocked: 0, speechless: 0 });
      expect(count.acknowledged).toBeGreaterThan(0);
    }
  };

  it('through kills in the middle of writing, uploads cut short, clashes and refusals', async () => {
    await through(['kill', 'cut upload', 'clash', 'refused first', 'kill', 'cut upload', 'cut upload', 'clash', 'kill']);
  });

  it('through a full disk, where this machine lets one be made', async ({ skip }) => {
    skip(!smallDisk(folder), 'Only the machine’s owner may mount a small disk; the file limit below is tried everywhere.');
    try {
      await through(['full disk', 'full disk', 'full disk', 'kill', 'full disk']);
    } finally {
      unmountSmallDisk(folder);
    }
  });
});

describe('a server that cannot write', () => {
  it('says so in one sentence everywhere, and before anything is played', async () => {
    // A first start makes the tables; after that no file may grow beyond what it is.
    await (await spawnServer(folder)).kill();
    const server = await spawnServer(folder, { limitBlocks: 33 });
    try {
      const { storage } = API.health.parse(await (await fetch(`${server.api}/health`)).json());
      expect(storage).toContain('The disk does not take what Isochron writes');
      const one = makeOne();
      const answers = [
        await sendJson(`${server.api}/sessions/${PRACTICE_SESSION.id}`, 'PUT', PRACTICE_SESSION),
        await sendJson(`${server.api}/settings`, 'PATCH', { announce: false }),
        await sendJson(`${server.api}/practice-configs/five-steps.first.whole`, 'PATCH', { goalBpm: 99 }),
      ];
      for (const answer of answers) {
        expect(answer.status).toBe(507);
        expect(((await answer.json()) as { message: string }).message).toBe(storage);
      }
      expect((await fetch(`${server.api}/takes/${one.id}`)).status).toBe(404);
    } finally {
      await server.kill();
    }
  });

  it('says that its folder is closed, and shows what is there, where this machine lets one be closed', async ({ skip }) => {
    skip(!smallDisk(folder), 'Only the machine’s owner may mount a disk.');
    try {
      await (await spawnServer(folder)).kill();
      execFileSync('mount', ['-o', 'remount,ro', folder]);
      const server = await spawnServer(folder);
      const { storage } = API.health.parse(await (await fetch(`${server.api}/health`)).json());
      expect(storage).toContain('cannot be written');
      const answer = await sendJson(`${server.api}/settings`, 'PATCH', { announce: false });
      expect(((await answer.json()) as { message: string }).message).toBe(storage);
      // What is stored can be looked at all the same.
      expect((await fetch(`${server.api}/passages`)).status).toBe(200);
      await server.kill();
    } finally {
      unmountSmallDisk(folder);
    }
  });

  it('answers a recording that does not fit with the same sentence, and keeps none of it', async () => {
    const first = await spawnServer(folder);
    const one = makeOne();
    await sendJson(`${first.api}/sessions/${PRACTICE_SESSION.id}`, 'PUT', PRACTICE_SESSION);
    expect((await sendJson(`${first.api}/takes/${one.id}`, 'PUT', one)).status).toBe(200);
    await first.kill();
    const server = await spawnServer(folder, { limitBlocks: 600 });
    try {
      const answer = await sendWav(`${server.api}/takes/${one.id}/recording`, makeWav(1, 500_000));
      expect(answer.status).toBe(507);
      expect(((await answer.json()) as { message: string }).message).toContain('The disk does not take');
      expect(await readdir(join(folder, 'recordings'))).toEqual([]);
      expect((await sendWav(`${server.api}/takes/${one.id}/recording`, makeWav(1, 50_000))).status).toBe(200);
    } finally {
      await server.kill();
    }
  });
});

describe('a data folder', () => {
  it('is one server’s at a time: a second one says so and ends; after a kill it is free', async () => {
    const first = await spawnServer(folder);
    const second = await spawnServer(folder);
    expect(second.process.exitCode).toBe(1);
    expect(second.errors()).toContain('Another Isochron is at work in');
    expect(second.errors()).not.toContain('    at ');
    await first.kill();
    const third = await spawnServer(folder);
    expect(third.process.exitCode).toBeNull();
    await third.kill();
  });
});
