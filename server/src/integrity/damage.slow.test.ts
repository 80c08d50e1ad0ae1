import { copyFile, mkdtemp, open, readdir, readFile, rename, rm, stat, truncate, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { chance } from '@isochron/core/analysis';
import { API, type Take } from '@isochron/core/schema';
import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import { daysToKeep, listCopies, makeCopyOfToday } from '../database/copies';
import { openStore } from '../database/open';
import { DATABASE_FILES } from '../database/store-error';
import { getTake } from '../takes';
import { makeOne, makeWav, PRACTICE_SESSION, sendJson, sendWav } from '../testing/made-takes';
import { type OpenServer, openServer } from '../testing/open-server';
import { runCommand } from '../testing/run-command';
import { spawnServer } from '../testing/spawn-server';

let server: OpenServer;
beforeEach(async () => {
  server = await openServer();
  await sendJson(`${server.api}/sessions/${PRACTICE_SESSION.id}`, 'PUT', PRACTICE_SESSION);
});
afterEach(() => server.close());

const play = async (count: number): Promise<Take[]> => {
  const takes = Array.from({ length: count }, () => makeOne());
  for (const take of takes) expect((await sendJson(`${server.api}/takes/${take.id}`, 'PUT', take)).status).toBe(200);
  return takes;
};
const record = (take: Take, seed: number) => sendWav(`${server.api}/takes/${take.id}/recording`, makeWav(seed, 20_000));
const integrity = async () => API.integrity.parse(await (await fetch(`${server.api}/integrity`)).json());
/** Has everything checked, and waits for it. */
const check = async () => {
  server.integrity.start();
  for (;;) {
    const state = await integrity();
    if (!state.running) return state;
    await new Promise((resolve) => setTimeout(resolve, 20));
  }
};
const messageOf = async (answer: Response) => ((await answer.json()) as { message: string }).message;
const soundOf = (take: Take) => join(server.folder, 'recordings', `${take.id}.wav`);
const flip = async (file: string, at: number) => {
  const handle = await open(file, 'r+');
  const { buffer } = await handle.read(Buffer.alloc(1), 0, 1, at);
  await handle.write(Buffer.of((buffer[0] as number) ^ 0x10), 0, 1, at);
  await handle.close();
};

describe('practice that nothing has damaged', () => {
  it('is found as it was stored, whatever wrote to it, and nothing is said', async () => {
    const [first, second] = (await play(3)) as [Take, Take, Take];
    await record(first, 1);
    await record(first, 2);
    const { api } = server;
    await sendJson(`${api}/settings`, 'PATCH', { announce: false });
    await sendJson(`${api}/practice-configs/five-steps.first.whole`, 'PATCH', { goalBpm: 99 });
    await sendJson(`${api}/takes/${second.id}/note`, 'PUT', { note: 'loose' });
    const correction = { takeRevision: 1, repetition: { ...first.repetitions[0], ease: 'tense' } };
    await sendJson(`${api}/takes/${first.id}/repetitions/0`, 'PUT', correction);
    await sendJson(`${api}/passages/five-steps/library`, 'PATCH', { tags: ['mornings'] });
    const passage = (await (await fetch(`${api}/passages/five-steps`)).json()) as object;
    await sendJson(`${api}/passages/five-steps`, 'PUT', { ...passage, title: 'Five steps, slowly' });
    await sendJson(`${api}/passages/five-steps/log`, 'POST', [{ day: '2026-02-01', bpm: 70, note: 'from paper' }]);
    await fetch(`${api}/health`);
    const { sentences, checkedAt, unclaimed, missing } = await check();
    expect({ sentences, unclaimed, missing }).toEqual({ sentences: [], unclaimed: 0, missing: 0 });
    expect(checkedAt).not.toBeNull();
    expect(API.health.parse(await (await fetch(`${api}/health`)).json()).unreadable).toEqual([]);
  });

  it('of an earlier version gets its checksums at the first check, and is told from then on', async () => {
    const [take] = (await play(1)) as [Take];
    await record(take, 3);
    const { database } = server.store;
    for (const table of ['takes', 'repetitions', 'recordings']) await database.query(`UPDATE ${table} SET checksum = ''`);
    await database.query("UPDATE recordings SET sha256 = ''");
    expect((await check()).sentences).toEqual([]);
    const [rows] = await database.query("SELECT count(*) AS open FROM repetitions WHERE checksum = ''");
    expect(rows).toEqual([{ open: 0 }]);
    await flip(soundOf(take), 30_000);
    expect((await check()).sentences.join()).toContain('One recording is not as it was recorded');
  });
});

describe('forty bytes of the database that the disk changed', () => {
  it('are admitted: every take is as it was stored, or not shown', async () => {
    const takes = await play(30);
    const stored = new Map<string, string>();
    for (const { id } of takes) stored.set(id, JSON.stringify(await getTake(server.store, id)));
    const seen = { whole: 0, hidden: 0, refused: 0 };
    await server.store.database.query('PRAGMA wal_checkpoint(TRUNCATE)');
    const folder = await mkdtemp(join(tmpdir(), 'isochron-flipped-'));
    for (let seed = 1; seed <= 6; seed += 1) {
      const { uniform } = chance(seed);
      const file = join(folder, 'isochron.db');
      await copyFile(join(server.folder, 'isochron.db'), file);
      const { size } = await stat(file);
      // Far into it: what is changed in the first pages is met by everything.
      // Fewer of them every other time: forty are often seen before anything is read.
      for (let k = 0; k < (seed % 2 ? 40 : 8); k += 1) await flip(file, Math.floor(size * (0.1 + 0.9 * uniform())));
      const again = await spawnServer(folder);
      if (again.process.exitCode !== null) {
        expect(again.errors()).toMatch(/is damaged\. (There is no copy of it|The last good copy is)/);
        seen.refused += 1;
      } else {
        const { takes: listed } = API.takes.parse(await (await fetch(`${again.api}/takes?limit=200`)).json());
        const listedIds = new Set(listed.map(({ id }) => id));
        let hidden = 0;
        for (const { id } of takes) {
          const answer = await fetch(`${again.api}/takes/${id}`);
          const take = answer.ok ? API.take.parse(await answer.json()) : null;
          const isWhole = take && JSON.stringify(take) === JSON.stringify(JSON.parse(stored.get(id) as string));
          if (isWhole) {
            seen.whole += 1;
            // Found by the index as well.
            expect(listedIds.has(id)).toBe(true);
            continue;
          }
          // What is shown of it is less than was stored, and named; or nothing of it.
          hidden += 1;
          const before = JSON.parse(stored.get(id) as string) as Take;
          for (const repetition of take?.repetitions ?? [])
            expect(repetition).toEqual(before.repetitions.find(({ index }) => index === repetition.index));
          if (take === null) expect(listedIds.has(id)).toBe(false);
          else expect({ ...take, repetitions: [] }).toEqual({ ...before, repetitions: [] });
        }
        // Bytes that belong to nothing, and indexes that could be made again, are no damage.
        const health = API.health.parse(await (await fetch(`${again.api}/health`)).json());
        const state = API.integrity.parse(await (await fetch(`${again.api}/integrity`)).json());
        if (hidden > 0) {
          expect(health.unreadable.length).toBeGreaterThan(0);
          expect(state.sentences.join()).toMatch(/not as (it was|they were) written/);
        }
        seen.hidden += hidden;
      }
      await again.kill();
      for (const name of await readdir(folder)) await rm(join(folder, name), { recursive: true });
    }
    await rm(folder, { recursive: true });
    // Both were really met: damage that the pages show, and damage that only the rows show.
    expect(seen.refused + seen.hidden).toBeGreaterThan(seen.refused);
    expect(seen.whole).toBeGreaterThan(0);
  });

  it('are in no sum and no curve', async () => {
    const [one, other] = (await play(2)) as [Take, Take];
    const repetitions = async () =>
      API.passageRepetitions.parse(await (await fetch(`${server.api}/passages/five-steps/repetitions`)).json());
    expect(new Set((await repetitions()).map(({ takeId }) => takeId))).toEqual(new Set([one.id, other.id]));
    await server.store.database.query('UPDATE repetitions SET bpm = 250 WHERE takeId = ? AND "index" = 0', {
      replacements: [one.id],
    });
    await server.integrity.lookAtStart();
    expect(new Set((await repetitions()).map(({ takeId }) => takeId))).toEqual(new Set([other.id]));
    const practice = API.practice.parse(await (await fetch(`${server.api}/practice?shift=0`)).json());
    expect(practice.days.reduce((sum, { takes }) => sum + takes, 0)).toBe(1);
  });
});

describe('an index that the disk changed', () => {
  it('is made again from its table at the next start', async () => {
    const [take] = (await play(1)) as [Take];
    const { database } = server.store;
    await database.query('PRAGMA wal_checkpoint(TRUNCATE)');
    const [rows] = await database.query("SELECT pageno FROM dbstat WHERE name = 'takes_title' LIMIT 1");
    const folder = await mkdtemp(join(tmpdir(), 'isochron-index-'));
    const file = join(folder, 'isochron.db');
    await copyFile(join(server.folder, 'isochron.db'), file);
    // The last bytes of the page are the first entry of its only row: the title.
    const end = (rows[0] as { pageno: number }).pageno * 4096;
    for (let back = 60; back < 75; back += 1) await flip(file, end - back);
    const opened = await openStore(folder);
    const [found] = await opened.database.query('SELECT id FROM takes WHERE title = ?', { replacements: [take.title] });
    expect(found).toEqual([{ id: take.id }]);
    await opened.close();
    await rm(folder, { recursive: true });
  });
});

describe('a recording', () => {
  it('that was cut or changed on the disk is not handed out as if it were whole; what is left of it is, to who asks', async () => {
    const [cut, changed, gone, good] = (await play(4)) as [Take, Take, Take, Take];
    for (const [k, take] of [cut, changed, gone, good].entries()) await record(take, k);
    await truncate(soundOf(cut), 20_000);
    await flip(soundOf(changed), 25_000);
    await rm(soundOf(gone));
    const fetched = (take: Take, query = '') => fetch(`${server.api}/takes/${take.id}/recording${query}`);
    expect((await fetched(good)).status).toBe(200);
    for (const take of [cut, changed]) {
      const answer = await fetched(take);
      expect(answer.status).toBe(422);
      expect(await messageOf(answer)).toContain('changed on the disk');
      expect((await fetched(take, '?asIs=1')).status).toBe(200);
    }
    expect((await fetched(gone)).status).toBe(404);
    expect(await messageOf(await fetched(gone, '?asIs=1'))).toContain('not in its place');
    const { sentences, missing } = await check();
    expect(sentences.join(' ')).toContain('2 recordings are not as they were recorded');
    expect(missing).toBe(1);
    // A backup has them, and says what it has.
    const { code, out } = await runCommand(server.folder, ['backup', join(server.folder, 'all.zip')]);
    expect(code).toBe(0);
    expect(out).toMatch(/1 recordings were not in their place.* 2 recordings are not as they were recorded/);
  });

  it('that belongs to nothing is set aside by the player’s order, one whose file is gone forgotten; nothing is removed', async () => {
    const [kept, gone] = (await play(2)) as [Take, Take];
    for (const take of [kept, gone]) await record(take, 5);
    const sound = await readFile(soundOf(gone));
    await rename(soundOf(gone), join(server.folder, 'recordings', 'somebody.wav'));
    const found = await check();
    expect(found).toMatchObject({ unclaimed: 1, missing: 1 });
    expect(found.sentences.join(' ')).toMatch(/The file of one recording is not in its place.*belongs to no take/);
    // Looking changes nothing.
    expect(await readdir(join(server.folder, 'recordings'))).toHaveLength(2);
    const tidied = API.tidied.parse(await (await fetch(`${server.api}/integrity/tidy`, { method: 'POST' })).json());
    expect(tidied).toMatchObject({ files: 1, forgotten: 1 });
    expect(await readFile(join(server.folder, tidied.folder, 'somebody.wav'))).toEqual(sound);
    expect(API.take.parse(await (await fetch(`${server.api}/takes/${gone.id}`)).json()).hasRecording).toBe(false);
    expect(API.take.parse(await (await fetch(`${server.api}/takes/${kept.id}`)).json()).hasRecording).toBe(true);
    expect(await check()).toMatchObject({ unclaimed: 0, missing: 0, sentences: [] });
  });
});

describe('copies of the database', () => {
  it('are kept of the newest two days, weeks and months', () => {
    const days = [
      '2026-11-29',
      '2026-11-28',
      '2026-11-27',
      '2026-11-22',
      '2026-11-15',
      '2026-10-31',
      '2026-10-02',
      '2026-09-30',
    ];
    // Sunday the 29th ends a week that began on the 23rd; the 22nd is the newest of the week before; October is the month before.
    expect([...daysToKeep(days)].sort()).toEqual(['2026-10-31', '2026-11-22', '2026-11-28', '2026-11-29']);
    expect([...daysToKeep([])]).toEqual([]);
  });

  it('are whole, one a day, and a damaged database makes none', async () => {
    const [take] = (await play(1)) as [Take];
    expect(await makeCopyOfToday(server.folder)).toBe('');
    expect(await makeCopyOfToday(server.folder)).toBe('');
    const copies = await listCopies(server.folder);
    expect(copies).toHaveLength(1);
    const other = await mkdtemp(join(tmpdir(), 'isochron-copy-'));
    await copyFile(join(server.folder, copies[0]?.name ?? ''), join(other, 'isochron.db'));
    const opened = await openStore(other);
    expect((await getTake(opened, take.id))?.id).toBe(take.id);
    await opened.close();
    await rm(other, { recursive: true });
    await rm(join(server.folder, copies[0]?.name ?? ''));
    await server.store.database.query('UPDATE takes SET goalBpm = 251');
    await server.integrity.lookAtStart();
    await server.integrity.daily();
    expect(await listCopies(server.folder)).toEqual([]);
    await server.integrity.cancel();
  });
});

describe('a database that cannot be used', () => {
  let folder: string;
  let take: Take;
  /** A data folder with a copy of its database, which is damaged after. */
  const damage = async () => {
    folder = await mkdtemp(join(tmpdir(), 'isochron-damaged-'));
    const first = await spawnServer(folder);
    take = makeOne();
    await sendJson(`${first.api}/sessions/${PRACTICE_SESSION.id}`, 'PUT', PRACTICE_SESSION);
    expect((await sendJson(`${first.api}/takes/${take.id}`, 'PUT', take)).status).toBe(200);
    expect((await sendWav(`${first.api}/takes/${take.id}/recording`, makeWav(1))).status).toBe(200);
    await first.kill();
    await rm(join(folder, 'copies'), { recursive: true, force: true });
    expect(await makeCopyOfToday(folder)).toBe('');
    await writeFile(join(folder, 'isochron.db'), Buffer.alloc(200_000, 7));
  };
  const isBack = async () => {
    const server = await spawnServer(folder);
    expect(server.errors()).toBe('');
    expect((await fetch(`${server.api}/takes/${take.id}`)).status).toBe(200);
    expect((await fetch(`${server.api}/takes/${take.id}/recording`)).status).toBe(200);
    await server.kill();
  };
  afterEach(() => rm(folder, { recursive: true, force: true }));

  it('names its last copy and the way back to it: each step of it done by hand', async () => {
    await damage();
    const failed = await spawnServer(folder);
    expect(failed.process.exitCode).toBe(1);
    const advice = failed.errors();
    // What to move away, and what to copy to where, as the sentence has it.
    const [, names = ''] =
      /by hand: stop Isochron; move (.*) \(as far as they are there\) out of the folder/.exec(advice) ?? [];
    const files = names.split(/, | and /);
    expect(files).toEqual([...DATABASE_FILES]);
    const aside = await mkdtemp(join(tmpdir(), 'isochron-moved-'));
    for (const file of files) await rename(join(folder, file), join(aside, file)).catch(() => {});
    const [, from = '', to = ''] = /; copy (\S+) to (\S+); start Isochron again/.exec(advice) ?? [];
    await copyFile(join(folder, from), join(folder, to));
    await isBack();
    await rm(aside, { recursive: true });
  });

  it('or by the command that it names; what was there is kept', async () => {
    await damage();
    expect((await spawnServer(folder)).errors()).toContain('npm run -s isochron -- recover');
    const { code, out } = await runCommand(folder, ['recover']);
    expect(code).toBe(0);
    const aside = /What was there is in (\S+)\.\n/.exec(out)?.[1] ?? '';
    expect((await readFile(join(aside, 'isochron.db')))[0]).toBe(7);
    await isBack();
  });

  it('is not taken for a first start where it is missing beside recordings or copies', async () => {
    await damage();
    for (const name of DATABASE_FILES) await rm(join(folder, name), { force: true });
    const failed = await spawnServer(folder);
    expect(failed.process.exitCode).toBe(1);
    expect(failed.errors()).toMatch(/^The database in .* is missing\. The last good copy is copies\//);
    expect(await readdir(folder)).not.toContain('isochron.db');
    await rm(join(folder, 'copies'), { recursive: true });
    expect((await spawnServer(folder)).errors()).toMatch(/is missing\. There is no copy of it/);
  });
});
