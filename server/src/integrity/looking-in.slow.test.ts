import { createWriteStream } from 'node:fs';
import { copyFile, mkdtemp, readFile, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { API } from '@isochron/core/schema';
import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import { writeBackup } from '../backup/write-backup';
import { lookIn } from '../testing/look-in';
import { makeOne, PRACTICE_SESSION, sendJson } from '../testing/made-takes';
import { openServer } from '../testing/open-server';
import { runCommand } from '../testing/run-command';
import { type SpawnedServer, spawnServer } from '../testing/spawn-server';

let folder: string;
beforeEach(async () => {
  folder = await mkdtemp(join(tmpdir(), 'isochron-looked-into-'));
});
afterEach(() => rm(folder, { recursive: true, force: true }));

/** Stores so many takes and gives back their ids: each was acknowledged. */
const play = async ({ api }: SpawnedServer, count: number): Promise<string[]> => {
  await sendJson(`${api}/sessions/${PRACTICE_SESSION.id}`, 'PUT', PRACTICE_SESSION);
  const takes = Array.from({ length: count }, () => makeOne());
  for (const take of takes) expect((await sendJson(`${api}/takes/${take.id}`, 'PUT', take)).status).toBe(200);
  return takes.map(({ id }) => id);
};

const missingOf = async ({ api }: SpawnedServer, ids: readonly string[]): Promise<string[]> => {
  const found = await Promise.all(ids.map(async (id) => ((await fetch(`${api}/takes/${id}`)).ok ? [] : [id])));
  return found.flat();
};

describe('a second program that looks into the database', () => {
  it('loses nothing: not after an upgrade, not while practice, a backup and a restore are under way', async () => {
    // As an earlier version left it: the start brings it up to date, and copies it first.
    await copyFile(join(import.meta.dirname, '../database/fixtures/version-2.db'), join(folder, 'isochron.db'));
    const [old] = await lookIn(folder);
    // One that never stops looking, through the start, the migration, and all that follows.
    let isOver = false;
    const restless = (async () => {
      const errors: string[] = [];
      while (!isOver) errors.push(...(await lookIn(folder)).flatMap(({ error }) => error ?? []));
      return errors;
    })();
    const takes = (more: number) => [1, 2].map(() => ({ error: null, takes: (old?.takes ?? 0) + more }));
    const server = await spawnServer(folder);
    expect(await lookIn(folder)).toEqual(takes(0));
    const ids = await play(server, 10);
    expect(await lookIn(folder)).toEqual(takes(10));
    const more = await play(server, 2);

    const archive = join(folder, 'all.zip');
    const looking = [lookIn(folder), writeBackup(folder, createWriteStream(archive)), lookIn(folder), play(server, 2)] as const;
    const [before, , after, during] = await Promise.all(looking);
    expect([...before, ...after].filter(({ error }) => error)).toEqual([]);
    expect(await missingOf(server, [...ids, ...more, ...during])).toEqual([]);

    const body = (await readFile(archive)) as Uint8Array<ArrayBuffer>;
    const headers = { 'Content-Type': 'application/zip' };
    const [answer, ...looks] = await Promise.all([
      fetch(`${server.api}/backup`, { method: 'PUT', headers, body }),
      ...Array.from({ length: 4 }, async (_, k) => {
        await new Promise((resolve) => setTimeout(resolve, 250 * k));
        return lookIn(folder);
      }),
    ]);
    expect(answer.status).toBe(200);
    expect(looks.flat().filter(({ error }) => error)).toEqual([]);
    const last = await play(server, 2);
    await lookIn(folder);
    // As a power cut ends it: what was acknowledged is in the files, or nowhere.
    await server.kill();
    await lookIn(folder);
    const again = await spawnServer(folder);
    expect(again.process.exitCode).toBeNull();
    expect(await missingOf(again, [...ids, ...more, ...last])).toEqual([]);
    isOver = true;
    expect(await restless).toEqual([]);
    await again.kill();
  });
});

describe('a restore', () => {
  it('keeps what is stored while it is under way: before it, or after it, never neither', async () => {
    const source = await openServer();
    await sendJson(`${source.api}/sessions/${PRACTICE_SESSION.id}`, 'PUT', PRACTICE_SESSION);
    const restored = Array.from({ length: 60 }, () => makeOne());
    for (const take of restored) await sendJson(`${source.api}/takes/${take.id}`, 'PUT', take);
    const archive = join(folder, 'all.zip');
    await writeBackup(source.folder, createWriteStream(archive));
    await source.close();

    const server = await openServer();
    try {
      const own: string[] = [];
      let isOver = false;
      const writers = Array.from({ length: 3 }, async () => {
        while (!isOver) {
          await sendJson(`${server.api}/sessions/${PRACTICE_SESSION.id}`, 'PUT', PRACTICE_SESSION);
          const take = makeOne();
          if ((await sendJson(`${server.api}/takes/${take.id}`, 'PUT', take)).ok) own.push(take.id);
        }
      });
      const body = (await readFile(archive)) as Uint8Array<ArrayBuffer>;
      const answer = await fetch(`${server.api}/backup`, {
        method: 'PUT',
        headers: { 'Content-Type': 'application/zip' },
        body,
      });
      const { before } = API.restored.parse(await answer.json());
      await new Promise((resolve) => setTimeout(resolve, 200));
      isOver = true;
      await Promise.all(writers);
      expect(own.length).toBeGreaterThan(20);
      const aside = await mkdtemp(join(tmpdir(), 'isochron-aside-'));
      await copyFile(join(server.folder, before, 'isochron.db'), join(aside, 'isochron.db'));
      const kept = await spawnServer(aside);
      const lost: string[] = [];
      let counts = { before: 0, after: 0 };
      for (const id of own) {
        if ((await fetch(`${server.api}/takes/${id}`)).ok) counts = { ...counts, after: counts.after + 1 };
        else if ((await fetch(`${kept.api}/takes/${id}`)).ok) counts = { ...counts, before: counts.before + 1 };
        else lost.push(id);
      }
      await kept.kill();
      await rm(aside, { recursive: true });
      expect(lost).toEqual([]);
      // Both sides of it were really written to.
      expect(counts.before).toBeGreaterThan(0);
      expect(counts.after).toBeGreaterThan(0);
    } finally {
      await server.close();
    }
  });

  it('on the command line says where everything is', async () => {
    const server = await spawnServer(folder);
    await play(server, 2);
    server.process.kill('SIGTERM');
    await new Promise((resolve) => server.process.once('exit', resolve));
    const archive = join(folder, 'own.zip');
    expect(await runCommand(folder, ['backup', archive])).toMatchObject({ code: 0 });
    const { code, out, errors } = await runCommand(folder, ['restore', archive]);
    expect({ code, errors }).toEqual({ code: 0, errors: '' });
    expect(out).toMatch(/^2 takes and 0 recordings are restored\. What was there before is in .*before-restore-/);
  });
});
