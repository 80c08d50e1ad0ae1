import { pino } from 'pino';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { makeOne, sendJson } from './testing/made-takes';
import { type OpenServer, openServer } from './testing/open-server';

const lines: Record<string, unknown>[] = [];
let server: OpenServer;

beforeAll(async () => {
  const log = pino({ level: 'debug' }, { write: (line: string) => void lines.push(JSON.parse(line)) });
  server = await openServer({ log });
});
afterAll(() => server.close());

const loggedAs = (msg: string) => lines.filter((line) => line.msg === msg);

describe('the server log', () => {
  it('has each request with method, path without ids, status and time', async () => {
    lines.length = 0;
    const { id } = makeOne();
    await fetch(`${server.api}/takes/${id}`);
    await fetch(`${server.api}/practice?from=2026-11-01`);
    expect(loggedAs('request')).toMatchObject([
      { method: 'GET', path: '/api/takes/:id', status: 404, ms: expect.any(Number) },
      { method: 'GET', path: '/api/practice' },
    ]);
    expect(JSON.stringify(lines)).not.toContain(id);
  });

  it('has what went wrong in a browser, and is not filled by a page that fails over and over', async () => {
    lines.length = 0;
    const details = 'TypeError: x is undefined\nat /bench';
    for (let k = 0; k < 220; k += 1) await sendJson(`${server.api}/faults`, 'POST', { details });
    expect(loggedAs('a fault in the browser')).toHaveLength(200);
    expect(loggedAs('a fault in the browser')[0]).toMatchObject({ details });
    expect((await sendJson(`${server.api}/faults`, 'POST', { details: '' })).status).toBe(400);
    expect((await sendJson(`${server.api}/faults`, 'POST', { details: 'x'.repeat(9000) })).status).toBe(400);
  });
});
