import { createWriteStream } from 'node:fs';
import { mkdtemp, readdir, readFile, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { type Accompaniment, API, type BeatsOf, LONGEST_ACCOMPANIMENT_S } from '@isochron/core/schema';
import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import { writeBackup } from './backup/write-backup';
import { sendJson } from './testing/made-takes';
import { type OpenServer, openServer } from './testing/open-server';

const ID = '00000000-0000-4000-a000-0000000000a1';
const SOUND = Buffer.from('any sound at all, as it was brought');
const BEATS: BeatsOf = { timesS: [1, 1.5, 2], onsetsS: [1, 1.49, 2], support: 1, beatsPerBar: 4, firstBarBeat: 0 };

let server: OpenServer;
beforeEach(async () => {
  server = await openServer();
});
afterEach(() => server.close());

const address = (one = server) => `${one.api}/accompaniments/${ID}`;
const bring = (body: Buffer = SOUND, query = 'title=Ferry&lengthS=12.5', headers: Record<string, string> = {}) =>
  fetch(`${address()}?${query}`, {
    method: 'POST',
    headers: { 'Content-Type': 'application/octet-stream', ...headers },
    body: body as Uint8Array<ArrayBuffer>,
  });
const stored = async (one = server): Promise<Accompaniment> =>
  API.accompaniment.parse(await (await fetch(address(one))).json());
const messageOf = async (answer: Response) => ((await answer.json()) as { message: string }).message;
const files = () => readdir(server.store.recordingsFolder);

describe('a recording to play along with', () => {
  it('is stored with its sound as it was brought, listed, given its beats, and removed with all of it', async () => {
    expect((await bring()).status).toBe(200);
    expect(await stored()).toMatchObject({ id: ID, title: 'Ferry', lengthS: 12.5, revision: 1, beats: null });
    expect(Buffer.from(await (await fetch(`${address()}/sound`)).arrayBuffer())).toEqual(SOUND);
    expect((await sendJson(address(), 'PUT', { ...(await stored()), beats: BEATS })).status).toBe(200);
    const list = API.accompaniments.parse(await (await fetch(`${server.api}/accompaniments`)).json());
    expect(list).toMatchObject([{ id: ID, bpm: 120 }]);
    expect((await fetch(address(), { method: 'DELETE' })).status).toBe(204);
    expect((await fetch(address())).status).toBe(404);
    expect(await files()).toEqual([]);
  });

  it('keeps the beats of the tab that came first, and says so to the second', async () => {
    await bring();
    const before = await stored();
    expect((await sendJson(address(), 'PUT', { ...before, beats: BEATS })).status).toBe(200);
    const late = await sendJson(address(), 'PUT', { ...before, beats: { ...BEATS, timesS: [3, 4] } });
    expect(late.status).toBe(412);
    expect(await messageOf(late)).toContain('changed elsewhere');
    expect((await stored()).beats).toEqual(BEATS);
  });

  it('is refused in words where it is empty, too long, or beats do not follow one another; and nothing stays behind', async () => {
    const empty = await bring(Buffer.alloc(0));
    expect(empty.status).toBe(400);
    expect(await messageOf(empty)).toBe('The recording is empty.');
    const long = await bring(SOUND, `title=Ferry&lengthS=${LONGEST_ACCOMPANIMENT_S + 1}`);
    expect(long.status).toBe(400);
    expect(await messageOf(long)).toContain('longer than 20 minutes');
    expect((await fetch(address())).status).toBe(404);
    expect(await files()).toEqual([]);
    await bring();
    const crossed = await sendJson(address(), 'PUT', { ...(await stored()), beats: { ...BEATS, timesS: [2, 1] } });
    expect(crossed.status).toBe(400);
    expect((await stored()).beats).toBeNull();
  });

  it('one that cannot be read hides only itself and is named', async () => {
    await bring();
    const other = ID.replace('a1', 'a2');
    await fetch(`${server.api}/accompaniments/${other}?title=Second&lengthS=3`, {
      method: 'POST',
      headers: { 'Content-Type': 'application/octet-stream' },
      body: SOUND as Uint8Array<ArrayBuffer>,
    });
    await server.store.database.query(`UPDATE accompaniments SET document = 'no' WHERE id = '${ID}'`);
    const list = API.accompaniments.parse(await (await fetch(`${server.api}/accompaniments`)).json());
    expect(list.map(({ title }) => title)).toEqual(['Second']);
    expect((await fetch(address())).status).toBe(422);
    const health = API.health.parse(await (await fetch(`${server.api}/health`)).json());
    expect(health.unreadable.join()).toContain('A recording to play along with (Ferry)');
  });

  it('goes into a backup with its sound and comes back from it', async () => {
    await bring();
    await sendJson(address(), 'PUT', { ...(await stored()), beats: BEATS });
    const folder = await mkdtemp(join(tmpdir(), 'isochron-along-'));
    const other = await openServer();
    try {
      const without = await writeBackup(server.folder, createWriteStream(join(folder, 'all.zip')));
      expect(without).toEqual({ missing: [], damaged: [] });
      const body = (await readFile(join(folder, 'all.zip'))) as Uint8Array<ArrayBuffer>;
      const headers = { 'Content-Type': 'application/zip' };
      expect((await fetch(`${other.api}/backup`, { method: 'PUT', headers, body })).status).toBe(200);
      expect(await stored(other)).toEqual(await stored());
      expect(Buffer.from(await (await fetch(`${address(other)}/sound`)).arrayBuffer())).toEqual(SOUND);
    } finally {
      await other.close();
      await rm(folder, { recursive: true });
    }
  });
});
