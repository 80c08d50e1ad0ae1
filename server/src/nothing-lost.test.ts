import { createHash, randomUUID } from 'node:crypto';
import { readdir, readFile } from 'node:fs/promises';
import { join } from 'node:path';
import { headlineBpm } from '@isochron/core/material';
import { API, type Repetition, RequestErrorSchema, type Take } from '@isochron/core/schema';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { getRecording } from './recordings';
import { replaceAnalysis } from './takes';
import { makeOne, makeWav, PRACTICE_SESSION, sendJson, sendWav } from './testing/made-takes';
import { type OpenServer, openServer } from './testing/open-server';

let server: OpenServer;
beforeAll(async () => {
  server = await openServer();
  await sendJson(`${server.api}/sessions/${PRACTICE_SESSION.id}`, 'PUT', PRACTICE_SESSION);
});
afterAll(() => server.close());

const putTake = (take: Take) => sendJson(`${server.api}/takes/${take.id}`, 'PUT', take);
const takeAt = async (id: string) => API.take.parse(await (await fetch(`${server.api}/takes/${id}`)).json());
const messageOf = async (answer: Response) => RequestErrorSchema.parse(await answer.json()).message;
const stored = async () => {
  const take = makeOne();
  expect((await putTake(take)).status).toBe(200);
  return take;
};

describe('a take that two change at once', () => {
  it('is changed by one of them, and the other is told', async () => {
    const take = await stored();
    expect((await putTake({ ...take, revision: 1, goalBpm: 150 })).status).toBe(200);
    const late = await putTake({ ...take, revision: 1, goalBpm: 160 });
    expect(late.status).toBe(412);
    expect(await messageOf(late)).toContain('changed elsewhere');
    expect(await takeAt(take.id)).toMatchObject({ goalBpm: 150, revision: 2 });
    // Whoever does not know that it is there does not put theirs in its place either.
    expect((await putTake(take)).status).toBe(412);
  });

  it('keeps a correction that was made while it was measured anew', async () => {
    const take = await stored();
    const before = await takeAt(take.id);
    const first = before.repetitions[0] as Repetition;
    const correction = { takeRevision: 1, repetition: { ...first, ease: 'tense' } };
    expect((await sendJson(`${server.api}/takes/${take.id}/repetitions/0`, 'PUT', correction)).status).toBe(200);
    expect(await replaceAnalysis(server.store, before, { ...before, engine: '9' })).toBe(false);
    expect((await takeAt(take.id)).repetitions[0]?.ease).toBe('tense');
    expect(await replaceAnalysis(server.store, await takeAt(take.id), { ...(await takeAt(take.id)), engine: '9' })).toBe(true);
  });
});

describe('a take whose clock was odd', () => {
  it.each([
    ['set back while it was played', '2026-03-01T18:00:00.000Z', '2026-03-01T17:00:00.000Z', '2026-03-01T18:00:00.000Z'],
    ['without a battery', '1970-01-01T00:00:12.000Z', '1970-01-01T00:03:00.000Z', '1970-01-01T00:03:00.000Z'],
    ['to the second only', '2026-03-01T18:00:00Z', '2026-03-01T18:03:00Z', '2026-03-01T18:03:00Z'],
  ])('(%s) is kept, and never ends before it began', async (_what, startedAt, endedAt, ends) => {
    const take = { ...makeOne(), startedAt, endedAt };
    expect((await putTake(take)).status).toBe(200);
    expect(await takeAt(take.id)).toMatchObject({ startedAt, endedAt: ends });
  });

  it.each([
    '0001-01-01T00:00:00.000Z',
    '9999-12-31T23:59:59.999Z',
    '2026-02-30T10:00:00Z',
    '2026-03-01T24:00:00Z',
    '2026-03-01',
    '',
  ])('in no year in which anybody practises, or on no day at all (%s), is refused with a sentence', async (startedAt) => {
    const answer = await putTake({ ...makeOne(), startedAt });
    expect(answer.status).toBe(400);
    expect((await messageOf(answer)).length).toBeGreaterThan(10);
  });
});

describe('a recording in pieces', () => {
  const digest = (bytes: Uint8Array) => ({
    'Content-Digest': `sha-256=:${createHash('sha256').update(bytes).digest('base64')}:`,
  });
  const address = (take: Take, upload: string, from: number, of: number) =>
    `${server.api}/takes/${take.id}/recording?upload=${upload}&from=${from}&of=${of}`;
  const fileOf = async (take: Take) => readFile((await getRecording(server.store, take.id))?.path ?? '');

  it('is there with its last piece, and not before; a piece whose answer was lost may come again', async () => {
    const take = await stored();
    const wav = makeWav(1);
    const upload = randomUUID();
    const [first, second] = [wav.slice(0, 5000), wav.slice(5000)];
    expect(await (await sendWav(address(take, upload, 0, wav.length), first, digest(first))).json()).toEqual({
      bytes: 5000,
      done: false,
    });
    expect((await fetch(`${server.api}/takes/${take.id}/recording`)).status).toBe(404);
    expect((await takeAt(take.id)).hasRecording).toBe(false);
    await sendWav(address(take, upload, 0, wav.length), first, digest(first));
    expect((await sendWav(address(take, upload, 5000, wav.length), second, digest(second))).status).toBe(200);
    expect(new Uint8Array(await fileOf(take))).toEqual(wav);
    expect((await takeAt(take.id)).hasRecording).toBe(true);
  });

  it('that arrives changed is not stored, and what was there before goes on', async () => {
    const take = await stored();
    const wav = makeWav(2);
    const upload = randomUUID();
    const [first, second] = [wav.slice(0, 5000), wav.slice(5000)];
    await sendWav(address(take, upload, 0, wav.length), first, digest(first));
    const changed = Uint8Array.from(second, (value, k) => (k === 100 ? value ^ 1 : value));
    expect((await sendWav(address(take, upload, 5000, wav.length), changed, digest(second))).status).toBe(503);
    expect((await sendWav(address(take, upload, 5000, wav.length), second, digest(second))).status).toBe(200);
    expect(new Uint8Array(await fileOf(take))).toEqual(wav);
  });

  it('whose beginning is not here is to begin anew; two that come at once do not meet', async () => {
    const take = await stored();
    const [mine, theirs] = [makeWav(3), makeWav(4)];
    const [a, b] = [randomUUID(), randomUUID()];
    const lost = await sendWav(address(take, a, 5000, mine.length), mine.slice(5000));
    expect(lost.status).toBe(409);
    expect(await messageOf(lost)).toContain('once more');
    await sendWav(address(take, a, 0, mine.length), mine.slice(0, 5000));
    await sendWav(address(take, b, 0, theirs.length), theirs.slice(0, 5000));
    expect((await sendWav(address(take, a, 5000, mine.length), mine.slice(5000))).status).toBe(200);
    expect(new Uint8Array(await fileOf(take))).toEqual(mine);
    expect((await sendWav(address(take, b, 5000, theirs.length), theirs.slice(5000))).status).toBe(200);
    expect(new Uint8Array(await fileOf(take))).toEqual(theirs);
  });

  it('that is longer than it says, or that is no sound, leaves nothing behind', async () => {
    const take = await stored();
    const upload = randomUUID();
    expect((await sendWav(address(take, upload, 0, 100), makeWav(5))).status).toBe(413);
    const letter = new TextEncoder().encode('This is a letter and no recording.') as Uint8Array<ArrayBuffer>;
    expect((await sendWav(address(take, upload, 0, letter.length), letter)).status).toBe(400);
    const left = await readdir(join(server.folder, 'recordings'));
    expect(left.filter((name) => name.startsWith(take.id))).toEqual([]);
  });
});

describe('a row that cannot be read', () => {
  const spoil = (sql: string, ...replacements: unknown[]) => server.store.database.query(sql, { replacements });
  const named = async () => API.health.parse(await (await fetch(`${server.api}/health`)).json()).unreadable.join('\n');

  it('of a passage hides only itself, and is named', async () => {
    const before = API.passages.parse(await (await fetch(`${server.api}/passages`)).json());
    await spoil("UPDATE passages SET document = '{\"half\": ' WHERE id = 'rolling-threes'");
    const after = API.passages.parse(await (await fetch(`${server.api}/passages`)).json());
    expect(after).toHaveLength(before.length - 1);
    expect(await named()).toContain('The passage (');
    const answer = await fetch(`${server.api}/passages/rolling-threes`);
    expect(answer.status).toBe(422);
    expect(await messageOf(answer)).toContain('cannot be read');
  });

  it('of a take hides only itself; nothing is put in its place', async () => {
    const [good, bad] = [await stored(), await stored()];
    await spoil("UPDATE takes SET tolerance = 'lost' WHERE id = ?", bad.id);
    const { takes } = API.takes.parse(await (await fetch(`${server.api}/takes?limit=200`)).json());
    expect(takes.some(({ id }) => id === good.id)).toBe(true);
    expect(takes.some(({ id }) => id === bad.id)).toBe(false);
    expect((await fetch(`${server.api}/takes/${bad.id}`)).status).toBe(422);
    expect(await named()).toContain('The take (');
    await spoil('UPDATE takes SET tolerance = ? WHERE id = ?', JSON.stringify(bad.tolerance), bad.id);
    expect((await takeAt(bad.id)).repetitions).toHaveLength(bad.repetitions.length);
    expect(await named()).not.toContain('The take (');
  });

  it('of a repetition leaves the others, and its own row is not overwritten when they are stored again', async () => {
    const take = await stored();
    await spoil('UPDATE repetitions SET notes = \'[\' WHERE takeId = ? AND "index" = 1', take.id);
    const read = await takeAt(take.id);
    expect(read.repetitions.map(({ index }) => index)).toEqual(
      take.repetitions.map(({ index }) => index).filter((index) => index !== 1),
    );
    expect(await named()).toContain('A repetition of the take (2 of ');
    expect((await putTake(read)).status).toBe(200);
    const [rows] = await server.store.database.query('SELECT notes FROM repetitions WHERE takeId = ? ORDER BY "index"', {
      replacements: [take.id],
    });
    expect(rows).toHaveLength(take.repetitions.length);
    expect((rows[1] as { notes: string }).notes).toBe('[');
  });

  it('of a configuration is not replaced by playing or by a change', async () => {
    await stored();
    await spoil("UPDATE practiceConfigs SET document = '{}' WHERE id = 'five-steps.first.whole'");
    expect((await sendJson(`${server.api}/practice-configs/five-steps.first.whole`, 'PATCH', { goalBpm: 90 })).status).toBe(
      422,
    );
    await stored();
    const [rows] = await server.store.database.query(
      "SELECT document FROM practiceConfigs WHERE id = 'five-steps.first.whole'",
    );
    expect(rows).toEqual([{ document: '{}' }]);
    expect(await named()).toContain('How a passage is practised (five-steps.first.whole)');
  });
});

describe('the list of takes', () => {
  it('comes in pages, sorted and chosen, each take once', async () => {
    const goals = [70, 110, 90, 130, 100, 80];
    for (const [k, startBpm] of goals.entries())
      await putTake({ ...makeOne(), passageId: 'in-on-the-upbeat', startBpm, startedAt: `2026-04-0${k + 1}T10:00:00.000Z` });
    const page = async (query: string) =>
      API.takes.parse(await (await fetch(`${server.api}/takes?passageId=in-on-the-upbeat&${query}`)).json());
    const first = await page('sort=startBpm&order=asc&limit=4');
    const rest = await page('sort=startBpm&order=asc&limit=4&offset=4');
    expect([...first.takes, ...rest.takes].map(({ startBpm }) => startBpm)).toEqual([...goals].sort((a, b) => a - b));
    expect(first.total).toBe(6);
    expect((await page('limit=1')).takes[0]?.startedAt).toContain('2026-04-06');
    expect((await page('show=recorded')).takes).toEqual([]);
    const clean = await page('show=clean&sort=bestCleanBpm');
    expect(clean.takes.every(({ cleanCount }) => cleanCount > 0)).toBe(true);
    for (const query of ['limit=0', 'limit=10000', 'sort=title', 'offset=-1', 'show=all&show=clean'])
      expect((await fetch(`${server.api}/takes?${query}`)).status).toBe(400);
  });

  it('has the best of each day as a history', async () => {
    const history = API.history.parse(await (await fetch(`${server.api}/passages/in-on-the-upbeat/history`)).json());
    const best = Math.max(
      ...makeOne()
        .repetitions.filter(({ verdict }) => verdict.outcome === 'clean')
        .map(({ tempo }) => headlineBpm(tempo)),
    );
    expect(history.map(({ day }) => day)).toEqual([1, 2, 3, 4, 5, 6].map((day) => `2026-04-0${day}`));
    expect(history.every(({ bestCleanBpm }) => bestCleanBpm === best)).toBe(true);
  });
});
