import { API } from '@isochron/core/schema';
import { afterAll, beforeAll, expect, it } from 'vitest';
import { putNote, putTake } from './takes';
import { makeOne, PRACTICE_SESSION, sendJson } from './testing/made-takes';
import { type OpenServer, openServer } from './testing/open-server';

let server: OpenServer;
const [plain, noted, odd] = [
  { ...makeOne(), title: 'Ebb and flow' },
  { ...makeOne(), title: 'Ebb and flow' },
  { ...makeOne(), title: '50 % of O’Quay_s' },
];
beforeAll(async () => {
  server = await openServer();
  await sendJson(`${server.api}/sessions/${PRACTICE_SESSION.id}`, 'PUT', PRACTICE_SESSION);
  for (const take of [plain, noted, odd]) await putTake(server.store, take);
  await putNote(server.store, noted.id, 'Looser wrists, back\\slash');
});
afterAll(() => server.close());

const found = async (text: string, more = '') => {
  const answer = await fetch(`${server.api}/takes?text=${encodeURIComponent(text)}${more}`);
  const { takes, total } = API.takes.parse(await answer.json());
  expect(total).toBe(takes.length);
  return takes.map(({ id }) => id).sort();
};

it('takes are found by words in titles and notes, together with what else is asked', async () => {
  expect(await found('ebb')).toEqual([plain.id, noted.id].sort());
  expect(await found('WRISTS')).toEqual([noted.id]);
  expect(await found('o')).toEqual([plain.id, noted.id, odd.id].sort());
  expect(await found('o', '&show=noted')).toEqual([noted.id]);
  expect(await found('no such words')).toEqual([]);
});

it('signs that mean something to the database are only signs', async () => {
  expect(await found('50 %')).toEqual([odd.id]);
  expect(await found('Quay_')).toEqual([odd.id]);
  expect(await found('Quay.')).toEqual([]);
  expect(await found('% of')).toEqual([odd.id]);
  expect(await found('E%w')).toEqual([]);
  expect(await found('back\\slash')).toEqual([noted.id]);
  expect(await found("O' OR 1=1 --")).toEqual([]);
});
