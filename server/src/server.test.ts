import { mkdtemp, readdir, readFile, rm } from 'node:fs/promises';
import type { Server } from 'node:http';
import { request } from 'node:http';
import type { AddressInfo } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import {
  API,
  DEFAULT_SETTINGS,
  ENGINE_VERSION,
  type Exercise,
  READY_EXERCISES,
  readyExercise,
  type Take,
  TakeSchema,
  TEMPO_RANGE_BPM,
  writeWav,
} from '@isochron/core';
import { pino } from 'pino';
import { Sequelize } from 'sequelize';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { createApp } from './app';
import { firstTables } from './database/migrations/0001-first-tables';
import { openStore, type Store } from './database/open';
import { practise } from './demo/practice';
import { seedDemo } from './demo/seed';
import { storeMissingExercises } from './ready-material';
import { getTake } from './takes';

const exercise = readyExercise('five-steps') as Exercise;
const SESSION = { id: '1b4e28ba-2fa1-4d2e-883f-0016d3cca427', startedAt: '2026-03-01T18:00:00.000Z' };
const TAKE_ID = '6ec0bd7f-11c0-43da-975e-2a8ad9ebae0b';

const { take } = practise({
  takeId: TAKE_ID,
  sessionId: SESSION.id,
  startedAt: new Date(SESSION.startedAt),
  exercise,
  course: { goalBpm: 120, startBpm: 60, stepBpm: 5 },
  skill: { ...DEFAULT_SETTINGS.skill, missedShare: 0.02, extraShare: 0.02 },
  seed: 5,
  patience: 5,
  withSound: false,
});

let folder: string;
let store: Store;
let server: Server;
let base: string;

const listen = (host = '127.0.0.1') => {
  const app = createApp({ store, host, webFolder: folder, demo: false, log: pino({ level: 'silent' }) });
  return new Promise<Server>((resolve) => {
    const started = app.listen(0, '127.0.0.1', () => resolve(started));
  });
};

beforeAll(async () => {
  folder = await mkdtemp(join(tmpdir(), 'isochron-server-'));
  store = await openStore(folder);
  await storeMissingExercises(store, READY_EXERCISES);
  server = await listen();
  base = `http://127.0.0.1:${(server.address() as AddressInfo).port}/api`;
});

afterAll(async () => {
  server.close();
  await store.close();
  await rm(folder, { recursive: true });
});

const put = (path: string, body: unknown, headers: Record<string, string> = {}) =>
  fetch(base + path, {
    method: 'PUT',
    headers: { 'Content-Type': 'application/json', ...headers },
    body: JSON.stringify(body),
  });
const putWav = (path: string, body: Uint8Array<ArrayBuffer>) =>
  fetch(base + path, { method: 'PUT', headers: { 'Content-Type': 'audio/wav' }, body });
/** SQLite may change the last binary digit of a number written as text. */
const rounded = (document: unknown): unknown =>
  JSON.parse(JSON.stringify(document, (_key, value) => (typeof value === 'number' ? Number(value.toPrecision(14)) : value)));
const messageOf = async (response: Response): Promise<string> => ((await response.json()) as { message: string }).message;

describe('exercises', () => {
  it('are listed and read as the schema says', async () => {
    const list = API.exercises.parse(await (await fetch(`${base}/exercises`)).json());
    expect(list.map((one) => one.id).sort()).toEqual(READY_EXERCISES.map((one) => one.id).sort());
    expect(API.exercise.parse(await (await fetch(`${base}/exercises/five-steps`)).json())).toEqual(exercise);
  });

  it('that the player changed are not overwritten at the next start', async () => {
    await put('/exercises/five-steps', { ...exercise, title: 'My five' });
    await storeMissingExercises(store, READY_EXERCISES);
    const { title } = (await (await fetch(`${base}/exercises/five-steps`)).json()) as Exercise;
    expect(title).toBe('My five');
    await put('/exercises/five-steps', exercise);
  });

  it.each([0, 10_000])('with a goal of %i bpm are refused with a sentence', async (goalBpm) => {
    const response = await put('/exercises/five-steps', { ...exercise, goalBpm });
    expect(response.status).toBe(400);
    expect(await messageOf(response)).toContain(String(goalBpm === 0 ? TEMPO_RANGE_BPM.min : TEMPO_RANGE_BPM.max));
  });
});

describe('takes', () => {
  it('come back exactly as they were stored, notes and all', async () => {
    expect((await put(`/sessions/${SESSION.id}`, SESSION)).status).toBe(200);
    expect((await put(`/takes/${TAKE_ID}`, take)).status).toBe(200);
    const stored = TakeSchema.parse(await (await fetch(`${base}/takes/${TAKE_ID}`)).json());
    expect(rounded(stored)).toEqual(rounded(take));
  });

  it('may be stored again: the last word counts', async () => {
    const shorter: Take = { ...take, repetitions: take.repetitions.slice(0, 2) };
    await put(`/takes/${TAKE_ID}`, shorter);
    const [summary] = API.takes.parse(await (await fetch(`${base}/takes`)).json());
    expect(summary?.repetitionCount).toBe(2);
    expect(await store.models.onsets.count()).toBe(
      shorter.repetitions.reduce((sum, { notes, extras }) => sum + notes.length + extras.length, 0),
    );
    await put(`/takes/${TAKE_ID}`, take);
  });

  it('are listed by exercise, newest first', async () => {
    expect(API.takes.parse(await (await fetch(`${base}/takes?exerciseId=five-steps`)).json())).toHaveLength(1);
    expect(API.takes.parse(await (await fetch(`${base}/takes?exerciseId=rolling-threes`)).json())).toEqual([]);
  });

  it('of an unknown session or exercise are refused, and nothing of them is kept', async () => {
    const id = 'c9bf9e57-1685-4c89-bafb-ff5af830be8a';
    const response = await put(`/takes/${id}`, { ...take, id, sessionId: 'e4eaaaf2-d142-41b3-b741-80bda37f3cb9' });
    expect(response.status).toBe(409);
    expect((await fetch(`${base}/takes/${id}`)).status).toBe(404);
  });

  it.each([
    [
      'a body that is not JSON',
      () => fetch(`${base}/takes/${TAKE_ID}`, { method: 'PUT', headers: { 'Content-Type': 'application/json' }, body: '{' }),
      400,
    ],
    ['a body of the wrong shape', () => put(`/takes/${TAKE_ID}`, { id: TAKE_ID }), 400],
    ['an id that is none', () => fetch(`${base}/takes/..%2f..%2fetc`), 400],
    ['an unknown address', () => fetch(`${base}/nowhere`), 404],
  ])('%s is refused with a sentence', async (_what, ask, status) => {
    const response = await ask();
    expect(response.status).toBe(status);
    expect((await messageOf(response)).length).toBeGreaterThan(10);
  });
});

describe('recordings', () => {
  const wav = writeWav(
    Float32Array.from({ length: 4800 }, (_, n) => Math.sin(n / 20) / 2),
    48_000,
  );

  it('are stored beside the database and come back byte for byte', async () => {
    expect((await putWav(`/takes/${TAKE_ID}/recording`, wav)).status).toBe(204);
    expect(await readdir(join(folder, 'recordings'))).toEqual([`${TAKE_ID}.wav`]);
    const response = await fetch(`${base}/takes/${TAKE_ID}/recording`);
    expect(response.headers.get('content-type')).toContain('audio/');
    expect(new Uint8Array(await response.arrayBuffer())).toEqual(wav);
    expect(TakeSchema.parse(await (await fetch(`${base}/takes/${TAKE_ID}`)).json()).hasRecording).toBe(true);
  });

  it('that are no WAV, or empty, leave the stored one in place', async () => {
    expect((await putWav(`/takes/${TAKE_ID}/recording`, new TextEncoder().encode('not a recording'))).status).toBe(400);
    expect((await putWav(`/takes/${TAKE_ID}/recording`, new Uint8Array(0))).status).toBe(400);
    expect(new Uint8Array(await readFile(join(folder, 'recordings', `${TAKE_ID}.wav`)))).toEqual(wav);
    expect(await readdir(join(folder, 'recordings'))).toHaveLength(1);
  });

  it('need their take first', async () => {
    const response = await putWav('/takes/c9bf9e57-1685-4c89-bafb-ff5af830be8a/recording', wav);
    expect(response.status).toBe(404);
    expect(await messageOf(response)).toMatch(/take before its recording/);
  });
});

describe('settings', () => {
  it('are the defaults at first, and what was stored after', async () => {
    expect(API.settings.parse(await (await fetch(`${base}/settings`)).json())).toEqual(DEFAULT_SETTINGS);
    await put('/settings', { ...DEFAULT_SETTINGS, noteNaming: 'american' });
    expect(API.settings.parse(await (await fetch(`${base}/settings`)).json()).noteNaming).toBe('american');
  });

  it('of an older version are completed with the defaults', async () => {
    await store.models.settings.upsert({ key: 'player', document: { stepBpm: 10 } as never });
    expect(API.settings.parse(await (await fetch(`${base}/settings`)).json())).toEqual({ ...DEFAULT_SETTINGS, stepBpm: 10 });
  });
});

describe('a re-analysis', () => {
  const RECORDED_ID = '0f8fad5b-d9cb-469f-a165-70867728950e';
  const recorded = practise({
    takeId: RECORDED_ID,
    sessionId: SESSION.id,
    startedAt: new Date(SESSION.startedAt),
    exercise,
    course: { goalBpm: 120, startBpm: 100, stepBpm: 5 },
    skill: DEFAULT_SETTINGS.skill,
    seed: 9,
    patience: 2,
    withSound: true,
  });
  const old: Take = { ...recorded.take, engine: '1' };
  const state = async () => API.reanalysis.parse(await (await fetch(`${base}/reanalysis`)).json());
  const start = (takeId?: string) =>
    fetch(`${base}/reanalysis`, {
      method: 'POST',
      headers: { 'Content-Type': 'application/json' },
      body: JSON.stringify(takeId ? { takeId } : {}),
    });
  const finished = async () => {
    for (let tries = 0; tries < 300; tries += 1) {
      const now = await state();
      if (!now.running) return now;
      await new Promise((resolve) => setTimeout(resolve, 100));
    }
    throw new Error('the re-analysis did not come to an end');
  };

  beforeAll(async () => {
    await put(`/sessions/${SESSION.id}`, SESSION);
    await put(`/takes/${RECORDED_ID}`, old);
    const wav = writeWav(recorded.recording as Float32Array, recorded.sampleRateHz) as Uint8Array<ArrayBuffer>;
    await putWav(`/takes/${RECORDED_ID}/recording`, wav);
  });

  it('finds what is due, measures it anew in a worker thread, and keeps the old figures', async () => {
    expect(await state()).toMatchObject({ running: false, due: 1 });
    expect((await start()).status).toBe(202);
    expect(await finished()).toMatchObject({ done: 1, of: 1, due: 0, message: '' });
    const anew = TakeSchema.parse(await (await fetch(`${base}/takes/${RECORDED_ID}`)).json());
    expect(anew.engine).toBe(ENGINE_VERSION);
    expect(anew.repetitions.map((one) => one.decision)).toEqual(old.repetitions.map((one) => one.decision));
    const [earlier] = API.earlier.parse(await (await fetch(`${base}/takes/${RECORDED_ID}/earlier`)).json());
    expect(earlier?.engine).toBe('1');
    expect(rounded(earlier?.repetitions)).toEqual(rounded(old.repetitions));
  }, 40_000);

  it('can be cancelled, and says what a damaged recording keeps', async () => {
    await start(RECORDED_ID);
    const answer = await fetch(`${base}/reanalysis`, { method: 'DELETE' });
    expect(API.reanalysis.parse(await answer.json()).running).toBe(false);
    const broken = Uint8Array.from([...new TextEncoder().encode('RIFF'), ...new Uint8Array(60)]) as Uint8Array<ArrayBuffer>;
    await putWav(`/takes/${RECORDED_ID}/recording`, broken);
    await start(RECORDED_ID);
    expect((await finished()).message).toContain('keeps its old figures');
    expect((await fetch(`${base}/takes/${RECORDED_ID}`)).status).toBe(200);
  }, 40_000);
});

describe('a database of the first version', () => {
  it('is copied, brought up to date, and keeps its takes', async () => {
    const older = await mkdtemp(join(tmpdir(), 'isochron-older-'));
    try {
      const file = join(older, 'isochron.db');
      const database = new Sequelize({ dialect: 'sqlite', storage: file, logging: false });
      const tables = database.getQueryInterface();
      await firstTables.up({ context: tables });
      await database.query('CREATE TABLE SequelizeMeta (name VARCHAR(255) PRIMARY KEY)');
      await tables.bulkInsert('SequelizeMeta', [{ name: firstTables.name }]);
      await tables.bulkInsert('sessions', [SESSION]);
      await tables.bulkInsert('exercises', [{ id: exercise.id, title: exercise.title, document: JSON.stringify(exercise) }]);
      const { repetitions: _, hasRecording: __, profile, withoutClick, sourceFile, ...row } = take;
      expect([profile, withoutClick, sourceFile]).toEqual(['struck', false, '']);
      const plain = { ...row, tolerance: JSON.stringify(row.tolerance), closing: JSON.stringify(row.closing) };
      await tables.bulkInsert('takes', [{ ...plain, repetitionCount: 0, cleanCount: 0 }]);
      await database.close();
      const opened = await openStore(older);
      const stored = await getTake(opened, TAKE_ID);
      expect(stored).toMatchObject({ id: TAKE_ID, profile: 'any', withoutClick: false });
      await opened.close();
      expect(await readdir(older)).toContain('isochron.before-0002-engine-two.db');
    } finally {
      await rm(older, { recursive: true });
    }
  });
});

describe('the door', () => {
  it('is shut to other sites and other hosts', async () => {
    expect((await put('/settings', DEFAULT_SETTINGS, { Origin: 'http://example.org' })).status).toBe(403);
    const { port } = server.address() as AddressInfo;
    const status = await new Promise((resolve) => {
      request({ port, host: '127.0.0.1', path: '/api/health', headers: { Host: 'example.org' } }, (answer) =>
        resolve(answer.statusCode),
      ).end();
    });
    expect(status).toBe(403);
  });

  it('lets the browser load only what is shipped', async () => {
    const policy = (await fetch(`${base}/health`)).headers.get('content-security-policy') ?? '';
    expect(policy).toContain("default-src 'self'");
    expect(policy).toContain("script-src 'self' 'wasm-unsafe-eval';");
  });
});

describe('the database', () => {
  it('runs with foreign keys on and a write-ahead log, and opens again as it was', async () => {
    const [[keys], [journal]] = (await Promise.all([
      store.database.query('PRAGMA foreign_keys', { plain: false }),
      store.database.query('PRAGMA journal_mode', { plain: false }),
    ])) as unknown as [[{ foreign_keys: number }][], [{ journal_mode: string }][]];
    expect(JSON.stringify(keys)).toContain('1');
    expect(JSON.stringify(journal)).toContain('wal');
    const again = await openStore(folder);
    expect(await again.models.takes.count()).toBe(2);
    await again.close();
  });
});

describe('the demo data', () => {
  it('is ten weeks of valid takes, the same from the same seed, some with sound', async () => {
    const demoFolder = await mkdtemp(join(tmpdir(), 'isochron-demo-'));
    const demo = await openStore(demoFolder);
    await storeMissingExercises(demo, READY_EXERCISES);
    const today = new Date('2026-05-10T09:00:00Z');
    await seedDemo(demo, () => {}, today);
    const count = await demo.models.takes.count();
    expect(count).toBeGreaterThan(60);
    expect(await demo.models.recordings.count()).toBeGreaterThan(2);
    await seedDemo(demo, () => {}, today);
    expect(await demo.models.takes.count()).toBe(count);
    const first = await demo.models.takes.findOne({ order: [['startedAt', 'ASC']] });
    const days = (today.getTime() - new Date(first?.get('startedAt') as string).getTime()) / 86_400_000;
    expect(days).toBeGreaterThan(65);
    await demo.close();
    await rm(demoFolder, { recursive: true });
  });
});
