import { once } from 'node:events';
import { readdir } from 'node:fs/promises';
import { request } from 'node:http';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { makeOne, makeWav, PRACTICE_SESSION, sendJson, sendWav } from './testing/made-takes';
import { type OpenServer, openServer } from './testing/open-server';

const STALL_MS = 150;

let server: OpenServer;
const take = makeOne();
beforeAll(async () => {
  server = await openServer({ stallMs: STALL_MS });
  await sendJson(`${server.api}/sessions/${PRACTICE_SESSION.id}`, 'PUT', PRACTICE_SESSION);
  await sendJson(`${server.api}/takes/${take.id}`, 'PUT', take);
});
afterAll(() => server.close());

/** Begins a request with a body of so many bytes and sends part of it. Gives back what is answered, or why it was closed. */
const begin = (method: string, path: string, type: string, length: number, part: Uint8Array) => {
  const sending = request(`${server.api}${path}`, { method, headers: { 'Content-Type': type, 'Content-Length': length } });
  const answered = new Promise<{ status: number; body: string }>((resolve) => {
    sending.on('response', (answer) => {
      let body = '';
      answer.on('data', (data: Buffer) => {
        body += data;
      });
      answer.on('end', () => resolve({ status: answer.statusCode ?? 0, body }));
      answer.on('error', () => resolve({ status: answer.statusCode ?? 0, body }));
    });
    sending.on('error', (error) => resolve({ status: 0, body: error.message }));
  });
  sending.write(part);
  return { sending, answered };
};

describe('bodies that are read into memory', () => {
  it('are refused with a sentence where together they are more than there is room for; who is first is served', async () => {
    const json = Buffer.from(JSON.stringify({ takeRevision: 1, padding: 'x'.repeat(40_000_000) }));
    const bodies = Array.from({ length: 8 }, () =>
      begin('PUT', `/takes/${take.id}/repetitions/0`, 'application/json', json.length, json),
    );
    for (const { sending } of bodies) sending.end();
    const answers = await Promise.all(bodies.map(({ answered }) => answered));
    const statuses = answers.map(({ status }) => status);
    // Two have room at a time: what they say is wrong in other ways.
    expect(statuses.filter((status) => status === 400).length).toBeGreaterThanOrEqual(2);
    const refused = answers.filter(({ status }) => status === 503);
    expect(refused.length).toBeGreaterThanOrEqual(1);
    for (const { body } of refused) expect(JSON.parse(body).message).toContain('will be tried once more');
    // The others were closed on the way, and then there is room again.
    expect((await sendJson(`${server.api}/settings`, 'PATCH', { announce: false })).status).toBe(200);
  });

  it('of ordinary size come by the dozen', async () => {
    const answers = await Promise.all(
      Array.from({ length: 24 }, () => sendJson(`${server.api}/settings`, 'PATCH', { announce: true })),
    );
    expect(answers.map(({ status }) => status)).toEqual(answers.map(() => 200));
  });
});

describe('a transfer that stands still', () => {
  it.each([
    ['of a recording', 'PUT', `/takes/${take.id}/recording`, 'audio/wav'],
    ['of a backup', 'PUT', '/backup', 'application/zip'],
    ['of figures', 'PUT', `/takes/${take.id}`, 'application/json'],
  ])('%s is closed, and leaves nothing behind', async (_what, method, path, type) => {
    const { sending, answered } = begin(method, path, type, 100_000, makeWav(1).subarray(0, 500));
    const { status } = await answered;
    expect([0, 408]).toContain(status);
    sending.destroy();
    // What was begun is taken back in the moment after.
    for (let tries = 0; tries < 100; tries += 1) {
      const left = [...(await readdir(server.folder)), ...(await readdir(join(server.folder, 'recordings')))];
      if (!left.some((name) => /\.part$|^restore-/.test(name))) return;
      await new Promise((resolve) => setTimeout(resolve, 20));
    }
    throw new Error('Something of it is still there.');
  });

  it('is none while something comes, however slowly', async () => {
    const wav = makeWav(2, 20_000);
    const { sending, answered } = begin('PUT', `/takes/${take.id}/recording`, 'audio/wav', wav.length, wav.subarray(0, 5000));
    for (let from = 5000; from < wav.length; from += 5000) {
      await new Promise((resolve) => setTimeout(resolve, STALL_MS / 2));
      sending.write(wav.subarray(from, from + 5000));
    }
    sending.end();
    expect((await answered).status).toBe(200);
    // And one that is answered late, long after it came, is no transfer any more.
    const answer = await sendWav(`${server.api}/takes/${take.id}/recording`, makeWav(3));
    expect(answer.status).toBe(200);
  });
});

describe('requests of other sites', () => {
  const fetchSite = (site: string, method: string, path: string) =>
    new Promise<number>((resolve, reject) => {
      const sending = request(`${server.api}${path}`, { method, headers: { 'Sec-Fetch-Site': site } }, (answer) => {
        answer.resume();
        answer.on('end', () => resolve(answer.statusCode ?? 0));
      });
      sending.on('error', reject);
      sending.end();
    });

  it.each([
    ['cross-site', 'GET', '/backup/file'],
    ['same-site', 'GET', '/backup/file'],
    ['cross-site', 'GET', '/backup/export'],
    ['same-site', 'POST', '/reanalysis'],
    ['same-site', 'POST', '/integrity/tidy'],
    ['cross-site', 'GET', '/takes'],
  ])('(%s, %s %s) are refused', async (site, method, path) => {
    expect(await fetchSite(site, method, path)).toBe(403);
  });

  it('are not those of this page, nor of an address that the player typed', async () => {
    for (const site of ['same-origin', 'none']) expect(await fetchSite(site, 'GET', '/backup/export')).toBe(200);
    // A link that another page shows may lead here all the same.
    const page = await once(
      request({ host: '127.0.0.1', port: server.port, path: '/', headers: { 'Sec-Fetch-Site': 'cross-site' } }).end(),
      'response',
    );
    expect((page[0] as { statusCode: number }).statusCode).not.toBe(403);
  });
});
