import { request } from 'node:http';
import { chance } from '@isochron/core/analysis';
import { RequestErrorSchema } from '@isochron/core/schema';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { makeOne, makeWav, PRACTICE_SESSION, sendJson, sendWav } from './testing/made-takes';
import { type OpenServer, openServer } from './testing/open-server';

const REQUESTS = 1000;

let server: OpenServer;
const take = makeOne();
beforeAll(async () => {
  server = await openServer();
  await sendJson(`${server.api}/sessions/${PRACTICE_SESSION.id}`, 'PUT', PRACTICE_SESSION);
  await sendJson(`${server.api}/takes/${take.id}`, 'PUT', take);
  await sendWav(`${server.api}/takes/${take.id}/recording`, makeWav(1));
});
afterAll(() => server.close());

interface Asked {
  method: string;
  path: string;
  headers: Record<string, string>;
  body: Buffer;
}

const ask = ({ method, path, headers, body }: Asked) =>
  new Promise<{ status: number; type: string; body: string }>((resolve, reject) => {
    // Not every method says by itself that a body follows.
    const framed = body.length ? { ...headers, 'Content-Length': body.length } : headers;
    const sending = request({ host: '127.0.0.1', port: server.port, method, path, headers: framed }, (answer) => {
      const pieces: Buffer[] = [];
      answer.on('data', (piece: Buffer) => pieces.push(piece));
      answer.on('error', reject);
      answer.on('end', () =>
        resolve({
          status: answer.statusCode ?? 0,
          type: answer.headers['content-type'] ?? '',
          body: Buffer.concat(pieces).toString(),
        }),
      );
    });
    sending.on('error', reject);
    sending.end(body);
  });

/** Requests that are nearly right: a good one with one or two things about it changed. */
const nearly = (seed: number): Asked => {
  const { uniform } = chance(seed);
  const one = <Value>(list: readonly Value[]): Value => list[Math.floor(uniform() * list.length)] as Value;
  const id = take.id;
  const path = one([
    `/api/takes/${id}`,
    `/api/takes/${id}/recording`,
    `/api/takes/${id}/recording?upload=x&from=-1&of=0`,
    `/api/takes/${id}/recording?upload=${id}&from=0&of=99999999999999`,
    `/api/takes/${id}/repetitions/0`,
    `/api/takes/${id}/repetitions/%00`,
    '/api/takes?limit=5&limit=6',
    '/api/takes?offset=1e99',
    '/api/takes?sort[x]=1',
    '/api/takes/%E0%A4%A',
    '/api/takes/%2e%2e%2f%2e%2e',
    '/api/passages/five-steps',
    '/api/passages/constructor',
    '/api/passages/five-steps/history',
    '/api/passages/five-steps/repetitions',
    '/api/practice-configs/five-steps.first.whole',
    '/api/practice-configs/__proto__.first.whole',
    '/api/practice-configs/a',
    `/api/sessions/${PRACTICE_SESSION.id}`,
    '/api/settings',
    '/api/reanalysis',
    '/api/health',
    '/api/nowhere',
    '/api/%',
  ]);
  const headers: Record<string, string> = { Host: `127.0.0.1:${server.port}`, 'Content-Type': 'application/json' };
  const changes: (() => void)[] = [
    () => {
      headers['Content-Type'] = one(['application/json; charset=klingon', 'text/plain', 'audio/wav', 'x', '']);
    },
    () => {
      headers['Content-Encoding'] = one(['gzip', 'br', 'unknown', 'deflate']);
    },
    () => {
      headers.Range = one(['bytes=999999-', 'bytes=-0', 'bytes=5-2', 'pages=1-2', 'bytes=a-b']);
    },
    () => {
      headers['If-Match'] = one(['"x"', '*', 'x', '']);
      headers['If-Unmodified-Since'] = one(['yesterday', 'Thu, 01 Jan 1970 00:00:00 GMT']);
    },
    () => {
      headers.Origin = one(['null', 'not an origin', 'http://[::1', 'file://']);
    },
    () => {
      headers.Host = one(['LOCALHOST', '127.0.0.1', '[::1]', 'example.org', '']);
    },
    () => {
      headers['Content-Digest'] = one(['sha-256=:x:', 'md5=:AAAA:', `sha-256=:${'A'.repeat(43)}=:`]);
    },
    () => {
      headers['Sec-Fetch-Site'] = one(['cross-site', 'same-origin', 'none', 'x']);
    },
  ];
  for (let k = 0; k < 1 + Math.floor(uniform() * 2); k += 1) one(changes)();
  const json = JSON.stringify(
    one<unknown>([{}, [], null, 1, '', take, { ...take, id: 7 }, { takeRevision: 1 }, { goalBpm: 1e9 }]),
  );
  const body = one([
    Buffer.alloc(0),
    Buffer.from(json),
    Buffer.from(json.slice(0, Math.floor(uniform() * json.length))),
    Buffer.from(makeWav(2).subarray(0, 2 + Math.floor(uniform() * 5000))),
    Buffer.from([0xff, 0xfe, 0x00, 0x7b]),
    Buffer.from(`${'['.repeat(5000)}`),
  ]);
  const method = one(['GET', 'PUT', 'PATCH', 'POST', 'DELETE', 'HEAD', 'OPTIONS']);
  return { method, path, headers, body: method === 'GET' || method === 'HEAD' ? Buffer.alloc(0) : body };
};

describe('a thousand requests that are nearly right', () => {
  it('are answered, or refused with a status of the sender’s and a sentence', async () => {
    const wrong: unknown[] = [];
    const seen = new Set<number>();
    for (let seed = 1; seed <= REQUESTS; seed += 1) {
      const asked = nearly(seed);
      const { status, type, body } = await ask(asked).catch((error: Error) => ({ status: 0, type: '', body: error.message }));
      seen.add(status);
      const isFine = status < 400;
      const sentence =
        asked.method === 'HEAD'
          ? 'It has no body by its nature.'
          : RequestErrorSchema.safeParse(type.includes('json') ? JSON.parse(body) : null).data?.message;
      const isRefusal = status >= 400 && status < 500 && (sentence ?? '').length > 10;
      if (!isFine && !isRefusal)
        wrong.push({
          status,
          said: body.slice(0, 200),
          method: asked.method,
          path: asked.path,
          headers: asked.headers,
          sent: asked.body.toString().slice(0, 40),
        });
    }
    expect(wrong).toEqual([]);
    // The corners were really looked into.
    for (const status of [200, 400, 403, 404, 412, 415, 416]) expect(seen).toContain(status);
    expect((await fetch(`${server.api}/health`)).status).toBe(200);
  });

  it('leave what is stored as it was', async () => {
    const answer = await fetch(`${server.api}/takes/${take.id}`);
    expect(((await answer.json()) as { repetitions: unknown[] }).repetitions).toHaveLength(take.repetitions.length);
  });
});
