import { PracticeSessionSchema, type Take, withPresentNames } from '@isochron/core/schema';
import { afterAll, beforeAll, expect, it } from 'vitest';
import { getTake } from './takes';
import { formerAnswers } from './testing/former-database';
import { sendJson } from './testing/made-takes';
import { type OpenServer, openServer } from './testing/open-server';

let server: OpenServer;

beforeAll(async () => {
  server = await openServer();
});
afterAll(() => server.close());

it('a page that was opened before the names changed sends its session and its takes, and nothing is lost', async () => {
  const { session, takes } = await formerAnswers(9);
  expect((await sendJson(`${server.api}/sittings/${session.id}`, 'PUT', session)).status).toBe(200);
  for (const [id, take] of Object.entries(takes)) {
    const sent = await sendJson(`${server.api}/takes/${id}`, 'PUT', { ...take, revision: 0 });
    expect(sent.status).toBe(200);
    const now = withPresentNames(take) as Take;
    expect(await getTake(server.store, id)).toMatchObject({ strategy: now.strategy, repetitions: now.repetitions });
  }
  const read = await fetch(`${server.api}/sessions/${session.id}`);
  expect(await read.json()).toEqual(PracticeSessionSchema.parse(withPresentNames(session)));
});
