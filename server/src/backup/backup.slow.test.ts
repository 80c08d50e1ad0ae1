import { createWriteStream } from 'node:fs';
import { mkdtemp, readdir, readFile, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { Readable } from 'node:stream';
import { buffer } from 'node:stream/consumers';
import { pipeline } from 'node:stream/promises';
import { API, TakeQuerySchema } from '@isochron/core/schema';
import Papa from 'papaparse';
import { afterAll, afterEach, beforeAll, beforeEach, describe, expect, it } from 'vitest';
import { ZipFile } from 'yazl';
import { changePlayerSettings, getPlayerSettings } from '../settings';
import { listTakes } from '../take-lists';
import { getTake } from '../takes';
import { putTogether } from '../testing/hostile-backups';
import { makeOne, makeWav, PRACTICE_SESSION, sendJson, sendWav } from '../testing/made-takes';
import { type OpenServer, openServer } from '../testing/open-server';
import { spawnServer } from '../testing/spawn-server';
import { openZip } from './read-zip';
import { writeBackup } from './write-backup';

let server: OpenServer;
let other: OpenServer;
let folder: string;
const [recorded, plain] = [makeOne(), makeOne()];
const wav = makeWav(7, 30_000);

const fill = async ({ api }: { api: string }) => {
  await sendJson(`${api}/sessions/${PRACTICE_SESSION.id}`, 'PUT', PRACTICE_SESSION);
  for (const take of [recorded, plain]) expect((await sendJson(`${api}/takes/${take.id}`, 'PUT', take)).status).toBe(200);
  await sendWav(`${api}/takes/${recorded.id}/recording`, wav);
};
beforeAll(async () => {
  folder = await mkdtemp(join(tmpdir(), 'isochron-backup-'));
  server = await openServer();
  await fill(server);
  await changePlayerSettings(server.store, { clickLevel: 0.17 });
  await writeBackup(server.folder, createWriteStream(join(folder, 'all.zip')));
});
afterAll(async () => {
  await server.close();
  await rm(folder, { recursive: true });
});
beforeEach(async () => {
  other = await openServer();
});
afterEach(() => other.close());

const takesOf = async (one: OpenServer) =>
  (await listTakes(one.store, TakeQuerySchema.parse({}))).takes.map(({ id }) => id).sort();
const restore = async (file: string) => {
  const bytes = (await readFile(join(folder, file))) as Uint8Array<ArrayBuffer>;
  return fetch(`${other.api}/backup`, { method: 'PUT', headers: { 'Content-Type': 'application/zip' }, body: bytes });
};
const messageOf = async (answer: Response) => ((await answer.json()) as { message: string }).message;

/** The backup with one file of it changed. */
const changed = async (file: string, change: (name: string, content: Buffer) => Buffer | null): Promise<void> => {
  const zip = await openZip(join(folder, 'all.zip'));
  const out = new ZipFile();
  for (const name of zip.names) {
    const content = change(name, await buffer(await zip.stream(name)));
    if (content) out.addBuffer(content, name);
  }
  out.end();
  await pipeline(out.outputStream, createWriteStream(join(folder, file)));
};

describe('a backup', () => {
  it('holds the database and every recording, and comes by the browser as it comes by the command line', async () => {
    const zip = await openZip(join(folder, 'all.zip'));
    expect(zip.names.sort()).toEqual(['isochron.db', 'manifest.json', `recordings/${recorded.id}.wav`]);
    expect(new Uint8Array(await buffer(await zip.stream(`recordings/${recorded.id}.wav`)))).toEqual(wav);
    zip.close();
    const answer = await fetch(`${server.api}/backup/file`);
    expect(answer.headers.get('content-disposition')).toMatch(/isochron-\d{4}-\d\d-\d\d\.zip/);
    await pipeline(Readable.fromWeb(answer.body as never), createWriteStream(join(folder, 'fetched.zip')));
    expect((await openZip(join(folder, 'fetched.zip'))).names).toHaveLength(3);
    expect((await readdir(server.folder)).filter((name) => name.startsWith('backup-'))).toEqual([]);
  });

  it('restored in another place is the same practice; what was there before is kept aside', async () => {
    const own = makeOne();
    await sendJson(`${other.api}/sessions/${PRACTICE_SESSION.id}`, 'PUT', PRACTICE_SESSION);
    await sendJson(`${other.api}/takes/${own.id}`, 'PUT', own);
    await sendWav(`${other.api}/takes/${own.id}/recording`, makeWav(8));
    const { takes, recordings, before } = API.restored.parse(await (await restore('all.zip')).json());
    expect({ takes, recordings }).toEqual({ takes: 2, recordings: 1 });
    expect(await takesOf(other)).toEqual([recorded.id, plain.id].sort());
    expect(await getTake(other.store, recorded.id)).toEqual(await getTake(server.store, recorded.id));
    expect((await getPlayerSettings(other.store)).clickLevel).toBe(0.17);
    const sound = await fetch(`${other.api}/takes/${recorded.id}/recording`);
    expect(new Uint8Array(await sound.arrayBuffer())).toEqual(wav);
    expect((await fetch(`${other.api}/takes/${own.id}`)).status).toBe(404);
    expect(await readdir(join(other.folder, before))).toEqual(expect.arrayContaining(['isochron.db', 'recordings']));
    expect(await readdir(join(other.folder, before, 'recordings'))).toEqual([`${own.id}.wav`]);
    expect((await readdir(other.folder)).filter((name) => name.startsWith('restore-'))).toEqual([]);
    // Practice goes on: takes and recordings may be stored as ever.
    const next = makeOne();
    expect((await sendJson(`${other.api}/takes/${next.id}`, 'PUT', next)).status).toBe(200);
    expect((await sendWav(`${other.api}/takes/${recorded.id}/recording`, makeWav(9))).status).toBe(200);
  });

  it.each<[string, (name: string, content: Buffer) => Buffer | null, RegExp]>([
    [
      'a recording was changed in',
      (name, content) =>
        name.endsWith('.wav') ? Buffer.from(content.map((value, k) => (k === 999 ? value ^ 1 : value))) : content,
      /is damaged: recordings.* is not what it was\. Nothing was changed/,
    ],
    ['a recording is missing from', (name, content) => (name.endsWith('.wav') ? null : content), /is damaged: .* is missing/],
    ['has no manifest', (name, content) => (name === 'manifest.json' ? null : content), /not a backup of Isochron/],
    [
      'names a file outside of itself',
      (name, content) =>
        name === 'manifest.json' ? Buffer.from(content.toString().replace('recordings/', '../../')) : content,
      /not a backup of Isochron/,
    ],
  ])('that %s is refused, and nothing is changed', async (_what, change, words) => {
    await changed('bad.zip', change);
    const before = await takesOf(other);
    const answer = await restore('bad.zip');
    expect(answer.status).toBe(400);
    expect(await messageOf(answer)).toMatch(words);
    expect(await takesOf(other)).toEqual(before);
    expect((await readdir(other.folder)).filter((name) => name.includes('restore'))).toEqual([]);
    expect(await readdir(join(other.folder, 'recordings'))).toEqual([]);
  });

  it('that is cut short, or no backup at all, is refused with a sentence', async () => {
    const whole = await readFile(join(folder, 'all.zip'));
    await writeFile(join(folder, 'short.zip'), whole.subarray(0, whole.length - 500));
    await writeFile(join(folder, 'letter.zip'), 'Dear player, this is no backup.');
    for (const file of ['short.zip', 'letter.zip'])
      expect(await messageOf(await restore(file))).toMatch(/not a backup of Isochron/);
  });

  it('whose figures do not follow from what was played is put right', async () => {
    const liar = await openServer();
    await fill(liar);
    const before = await getTake(liar.store, plain.id);
    // As anyone could write it: no checksum is a row of before they were.
    await liar.store.database.query(
      `UPDATE takes SET summary = json_set(summary, '$.bestCleanBpm', 390), cleanCount = 99, checksum = '' WHERE id = '${plain.id}'`,
    );
    await liar.store.database.query(
      `UPDATE repetitions SET outcome = 'clean', reason = 'none', measures = json_set(measures, '$.missed', 7), checksum = ''
       WHERE takeId = '${plain.id}' AND "index" = 0`,
    );
    await writeBackup(liar.folder, createWriteStream(join(folder, 'liar.zip')));
    await liar.close();
    expect((await restore('liar.zip')).status).toBe(200);
    const { takes } = await listTakes(other.store, TakeQuerySchema.parse({}));
    const restored = await getTake(other.store, plain.id);
    const clean = restored?.repetitions.filter(({ verdict }) => verdict.outcome === 'clean').length;
    expect(takes.find(({ id }) => id === plain.id)?.cleanCount).toBe(clean);
    expect(restored?.summary?.bestCleanBpm).not.toBe(390);
    expect(restored?.repetitions[0]?.verdict.outcome).not.toBe('clean');
    expect(restored?.repetitions[0]?.measures.missed).toBe(7);
    expect(restored?.repetitions.slice(1)).toEqual(before?.repetitions.slice(1));
    expect(await getTake(other.store, recorded.id)).toEqual(await getTake(server.store, recorded.id));
  });

  it('of an earlier version is brought up to date and restored', async () => {
    const old = await readFile(join(import.meta.dirname, '../database/fixtures/version-2.db'));
    await putTogether(new Map([['isochron.db', old]]), join(folder, 'old.zip'));
    const { takes } = API.restored.parse(await (await restore('old.zip')).json());
    expect(takes).toBe(3);
    expect((await listTakes(other.store, TakeQuerySchema.parse({}))).takes).toHaveLength(3);
    // What is stored after it is stored as ever.
    const own = makeOne();
    await sendJson(`${other.api}/sessions/${PRACTICE_SESSION.id}`, 'PUT', PRACTICE_SESSION);
    expect((await sendJson(`${other.api}/takes/${own.id}`, 'PUT', own)).status).toBe(200);
  });

  it('restored while somebody tidies up and somebody records loses no sound', async () => {
    const own = makeOne();
    await sendJson(`${other.api}/sessions/${PRACTICE_SESSION.id}`, 'PUT', PRACTICE_SESSION);
    await sendJson(`${other.api}/takes/${own.id}`, 'PUT', own);
    await sendWav(`${other.api}/takes/${own.id}/recording`, makeWav(8));
    let isOver = false;
    const tidying = (async () => {
      while (!isOver) await fetch(`${other.api}/integrity/tidy`, { method: 'POST' });
    })();
    const { before } = API.restored.parse(await (await restore('all.zip')).json());
    isOver = true;
    await tidying;
    expect((await fetch(`${other.api}/takes/${recorded.id}/recording`)).status).toBe(200);
    expect(await readdir(join(other.folder, before, 'recordings'))).toEqual([`${own.id}.wav`]);
    expect((await readdir(other.folder)).filter((name) => name.startsWith('set-aside'))).toEqual([]);
  });

  it('that is killed in the middle of being restored leaves all as it was, and may be restored again', async () => {
    const spawned = await spawnServer(folder);
    await fill(spawned);
    const own = makeOne();
    await sendJson(`${spawned.api}/takes/${own.id}`, 'PUT', own);
    const body = (await readFile(join(folder, 'all.zip'))) as Uint8Array<ArrayBuffer>;
    const put = (api: string) =>
      fetch(`${api}/backup`, { method: 'PUT', headers: { 'Content-Type': 'application/zip' }, body }).catch(() => null);
    for (const afterMs of [5, 20, 60]) {
      const answer = put(spawned.api);
      await new Promise((resolve) => setTimeout(resolve, afterMs));
      await spawned.kill();
      await answer;
      const again = await spawnServer(folder);
      const { total } = API.takes.parse(await (await fetch(`${again.api}/takes`)).json());
      expect([2, 3]).toContain(total);
      expect((await fetch(`${again.api}/takes/${recorded.id}/recording`)).status).toBe(200);
      expect((await readdir(folder)).filter((name) => name.startsWith('restore-'))).toEqual([]);
      await again.kill();
    }
    const last = await spawnServer(folder);
    expect((await put(last.api))?.status).toBe(200);
    await last.kill();
  });
});

describe('everything as JSON and CSV', () => {
  it('holds every take and every note', async () => {
    const answer = await fetch(`${server.api}/backup/export`);
    await pipeline(Readable.fromWeb(answer.body as never), createWriteStream(join(folder, 'figures.zip')));
    const zip = await openZip(join(folder, 'figures.zip'));
    const text = async (name: string) => (await buffer(await zip.stream(name))).toString();
    const takes = JSON.parse(await text('takes.json')) as unknown[];
    expect(takes.map((take) => API.take.parse(take).id).sort()).toEqual([recorded.id, plain.id].sort());
    const { data, errors } = Papa.parse<Record<string, string>>(await text('notes.csv'), {
      header: true,
      skipEmptyLines: true,
    });
    expect(errors).toEqual([]);
    const notes = [recorded, plain].flatMap(({ repetitions }) => repetitions.flatMap((one) => [...one.notes, ...one.extras]));
    expect(data).toHaveLength(notes.length);
    expect(data[0]).toMatchObject({ passageId: 'five-steps', repetition: '1', note: '1' });
    expect(API.settings.parse(JSON.parse(await text('settings.json'))).clickLevel).toBe(0.17);
  });
});
