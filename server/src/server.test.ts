import { copyFile, mkdtemp, readdir, readFile, rm, stat, writeFile } from 'node:fs/promises';
import { request } from 'node:http';
import { tmpdir } from 'node:os';
import { basename, join } from 'node:path';
import { Readable } from 'node:stream';
import { editRepetition } from '@isochron/core/analysis';
import { BUILT_IN_PASSAGES, headlineBpm, writeWav } from '@isochron/core/material';
import { newPracticeConfig } from '@isochron/core/planning';
import {
  API,
  DEFAULT_SETTINGS,
  ENGINE_VERSION,
  type Repetition,
  type Take,
  TakeSchema,
  TEMPO_RANGE_BPM,
} from '@isochron/core/schema';
import { describeReason } from '@isochron/core/words';
import { Sequelize } from 'sequelize';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { firstTables } from './database/migrations/0001-first-tables';
import { openStore, type Store } from './database/open';
import { practise } from './demo/practice';
import { listPassages, storeMissingPassages } from './passages';
import { listPracticeConfigs } from './practice-configs';
import { getRecording, putRecording, sweepRecordings, wholeRecording } from './recordings';
import { getPlayerSettings } from './settings';
import { earlierAnalyses, getTake } from './takes';
import { PRACTICE_SESSION, PASSAGE as passage } from './testing/made-takes';
import { type OpenServer, openServer } from './testing/open-server';

const AT = PRACTICE_SESSION.startedAt;
const TAKE_ID = '6ec0bd7f-11c0-43da-975e-2a8ad9ebae0b';

const { take } = practise({
  takeId: TAKE_ID,
  sessionId: PRACTICE_SESSION.id,
  startedAt: new Date(AT),
  passage,
  config: newPracticeConfig(passage, DEFAULT_SETTINGS),
  startBpm: 60,
  skill: { ...DEFAULT_SETTINGS.skill, missedShare: 0.02, extraShare: 0.02 },
  seed: 5,
  patience: 5,
  withSound: false,
});

let running: OpenServer;
let folder: string;
let store: Store;
let base: string;

beforeAll(async () => {
  running = await openServer();
  folder = running.folder;
  store = running.store;
  base = running.api;
});

afterAll(() => running.close());

const put = (path: string, body: unknown, headers: Record<string, string> = {}) =>
  fetch(base + path, {
    method: 'PUT',
    headers: { 'Content-Type': 'application/json', ...headers },
    body: JSON.stringify(body),
  });
/** The take as it is to be stored in the place of whatever revision is there. */
const anew = async (one: Take): Promise<Take> => ({ ...one, revision: (await getTake(store, one.id))?.revision ?? 0 });
const putAnew = async (one: Take) => put(`/takes/${one.id}`, await anew(one));
const takesAt = async (query = '') => API.takes.parse(await (await fetch(`${base}/takes${query}`)).json()).takes;
const putWav = (path: string, body: Uint8Array<ArrayBuffer>) =>
  fetch(base + path, { method: 'PUT', headers: { 'Content-Type': 'audio/wav' }, body });
const patch = (path: string, body: unknown) =>
  fetch(base + path, { method: 'PATCH', headers: { 'Content-Type': 'application/json' }, body: JSON.stringify(body) });
/** SQLite may change the last binary digit of a number written as text. */
const rounded = (document: unknown): unknown =>
  JSON.parse(JSON.stringify(document, (_key, value) => (typeof value === 'number' ? Number(value.toPrecision(14)) : value)));
const messageOf = async (response: Response): Promise<string> => ((await response.json()) as { message: string }).message;

describe('the notebook', () => {
  const entry = {
    id: '11111111-1111-4111-8111-111111111111',
    passageId: 'five-steps',
    fromBar: 1,
    toBar: 2,
    text: 'Thumb sooner.',
    writtenAt: '2026-03-01T10:00:00.000Z',
    editedAt: '2026-03-01T10:00:00.000Z',
    removed: false,
  };

  it('keeps entries, takes later changes over earlier ones, and never an earlier over a later', async () => {
    await put(`/notebook/${entry.id}`, entry);
    await put(`/notebook/${entry.id}`, { ...entry, text: 'Later.', editedAt: '2026-03-02T10:00:00.000Z' });
    await put(`/notebook/${entry.id}`, entry);
    expect(API.notebook.parse(await (await fetch(`${base}/notebook`)).json())).toMatchObject([{ text: 'Later.' }]);
    expect((await put(`/notebook/${entry.id}`, { ...entry, fromBar: 0 })).status).toBe(400);
  });
});

describe('passages', () => {
  it('are listed and read as the schema says', async () => {
    const list = API.passages.parse(await (await fetch(`${base}/passages`)).json());
    expect(list.map((one) => one.id).sort()).toEqual(BUILT_IN_PASSAGES.map((one) => one.id).sort());
    expect(API.passage.parse(await (await fetch(`${base}/passages/five-steps`)).json())).toEqual(passage);
  });

  it('that the player changed are not overwritten at the next start', async () => {
    const before = API.passage.parse(await (await fetch(`${base}/passages/five-steps`)).json());
    await put('/passages/five-steps', { ...passage, title: 'My five' });
    await storeMissingPassages(store, BUILT_IN_PASSAGES);
    const after = API.passage.parse(await (await fetch(`${base}/passages/five-steps`)).json());
    expect(after.title).toBe('My five');
    // Every change is a revision; storing the same again is none.
    expect(after.revision).toBe(before.revision + 1);
    await put('/passages/five-steps', { ...passage, title: 'My five' });
    expect(API.passage.parse(await (await fetch(`${base}/passages/five-steps`)).json()).revision).toBe(after.revision);
    await put('/passages/five-steps', passage);
  });

  it('changed elsewhere meanwhile are not overwritten: the second tab is told', async () => {
    const now = API.passage.parse(await (await fetch(`${base}/passages/five-steps`)).json());
    expect((await put(`/passages/five-steps?from=${now.revision}`, { ...now, about: 'from one tab' })).status).toBe(200);
    const late = await put(`/passages/five-steps?from=${now.revision}`, { ...now, about: 'from the other' });
    expect(late.status).toBe(412);
    expect(await messageOf(late)).toContain('changed elsewhere');
    expect(API.passage.parse(await (await fetch(`${base}/passages/five-steps`)).json()).about).toBe('from one tab');
    await put('/passages/five-steps', passage);
  });

  const library = async () => API.passages.parse(await (await fetch(`${base}/passages`)).json());
  const librarySummary = (id: string, change: object) =>
    fetch(`${base}/passages/${id}/library`, {
      method: 'PATCH',
      headers: { 'Content-Type': 'application/json' },
      body: JSON.stringify(change),
    });

  it('stand on a library: tagged, put away, deleted and put back, without a new revision', async () => {
    const five = async () => (await library()).find(({ id }) => id === 'five-steps');
    const before = await five();
    await librarySummary('five-steps', { tags: ['warm-up', 'warm-up', 'easy'] });
    expect(await five()).toMatchObject({ tags: ['warm-up', 'easy'], revision: before?.revision });
    await librarySummary('five-steps', { archived: true });
    expect((await five())?.archivedAt).not.toBeNull();
    await librarySummary('five-steps', { archived: false, removed: true });
    expect(await five()).toBeUndefined();
    // A next start does not bring it back, and nothing of it is lost.
    await storeMissingPassages(store, BUILT_IN_PASSAGES);
    expect(await five()).toBeUndefined();
    await librarySummary('five-steps', { removed: false });
    expect(await five()).toMatchObject({ tags: ['warm-up', 'easy'], archivedAt: null });
    expect((await librarySummary('five-steps', { tags: ['x'.repeat(31)] })).status).toBe(400);
    expect((await librarySummary('nothing', {})).status).toBe(404);
  });

  it('are listed without reading their notes: five hundred long ones at once', async () => {
    const [note] = passage.notes;
    const notes = Array.from({ length: 240 }, (_, k) => ({ ...note, id: `n${k}`, at: String(k), length: '1' }));
    const long = { ...passage, bars: 60, variants: [], notes };
    const rows = Array.from({ length: 500 }, (_, k) => ({
      id: `many-${k}`,
      title: `Long ${k}`,
      revision: 1,
      document: { ...long, id: `many-${k}` } as never,
      tags: [],
    }));
    await store.write((transaction) => store.models.passages.bulkCreate(rows, { transaction }));
    const first = await library();
    expect(first.filter(({ id }) => id.startsWith('many-'))).toHaveLength(500);
    // From the second time on the notes are left alone: a passage whose notes were spoiled since still stands there.
    await store.database.query(`UPDATE passages SET document = '{"gone":true}' WHERE id = 'many-7'`);
    expect(await library()).toEqual(first);
    expect((await fetch(`${base}/passages/many-7`)).status).toBe(422);
    await store.models.passages.destroy({ where: { title: rows.map(({ title }) => title) } });
  });

  it('one of which cannot be read hides only itself on the library', async () => {
    const spoiled = { id: 'spoiled', title: 'Spoiled', revision: 1, document: { nothing: true } as never, tags: [] };
    await store.write((transaction) => store.models.passages.create(spoiled, { transaction }));
    const list = await library();
    expect(list.map(({ id }) => id)).not.toContain('spoiled');
    expect(list).toHaveLength(BUILT_IN_PASSAGES.length);
    await store.models.passages.destroy({ where: { id: 'spoiled' } });
  });

  it.each([0, 10_000])('with a goal of %i bpm are refused with a sentence', async (goalBpm) => {
    const response = await put('/passages/five-steps', { ...passage, goalBpm });
    expect(response.status).toBe(400);
    expect(await messageOf(response)).toContain(String(goalBpm === 0 ? TEMPO_RANGE_BPM.min : TEMPO_RANGE_BPM.max));
  });
});

describe('takes', () => {
  it('come back exactly as they were stored, notes and all', async () => {
    expect((await put(`/sessions/${PRACTICE_SESSION.id}`, PRACTICE_SESSION)).status).toBe(200);
    expect((await put(`/takes/${TAKE_ID}`, take)).status).toBe(200);
    const stored = TakeSchema.parse(await (await fetch(`${base}/takes/${TAKE_ID}`)).json());
    expect(rounded(stored)).toEqual(rounded({ ...take, revision: 1 }));
  });

  it('may be stored again: the last word counts', async () => {
    const shorter: Take = { ...take, repetitions: take.repetitions.slice(0, 2) };
    await putAnew(shorter);
    const [summary] = await takesAt();
    expect(summary?.repetitionCount).toBe(2);
    expect(await store.models.repetitions.count()).toBe(2);
    await putAnew(take);
  });

  it('keep their rows: a correction by hand stores one repetition and touches no other', async () => {
    const rowsOf = async () => {
      const [rows] = await store.database.query('SELECT rowid, "index", measures FROM repetitions ORDER BY "index"');
      return rows as { rowid: number; index: number; measures: string }[];
    };
    const before = await rowsOf();
    const second = take.repetitions[1] as Repetition;
    const between = ((second.notes[3]?.expectedS ?? 0) + (second.notes[4]?.expectedS ?? 0)) / 2;
    const edited = editRepetition(take, second, { kind: 'add', onset: { timeS: between, levelDb: -20 } });
    const takeRevision = (await getTake(store, TAKE_ID))?.revision;
    const correct = (index: number, repetition: Repetition) =>
      put(`/takes/${TAKE_ID}/repetitions/${index}`, { takeRevision, repetition });
    expect((await correct(1, edited)).status).toBe(200);
    const after = await rowsOf();
    expect(after.map(({ rowid }) => rowid)).toEqual(before.map(({ rowid }) => rowid));
    after.forEach((row, k) => {
      expect(JSON.stringify(row.measures) === JSON.stringify(before[k]?.measures)).toBe(k !== 1);
    });
    const stored = TakeSchema.parse(await (await fetch(`${base}/takes/${TAKE_ID}`)).json());
    expect(rounded(stored.repetitions[1])).toEqual(rounded(edited));
    const [summary] = await takesAt();
    expect(summary?.cleanCount).toBe(stored.repetitions.filter((one) => one.verdict.outcome === 'clean').length);
    expect((await correct(77, { ...edited, index: 77 })).status).toBe(404);
    expect((await correct(2, edited)).status).toBe(400);
    // It was corrected since: whoever saw it before does not overwrite that.
    const late = await correct(1, second);
    expect(late.status).toBe(412);
    expect(await messageOf(late)).toContain('changed elsewhere');
    await putAnew(take);
  });

  it('leave in their configuration what tomorrow needs: the summary and what the strategy remembers', async () => {
    const [config] = API.practiceConfigs.parse(await (await fetch(`${base}/practice-configs`)).json());
    expect(config).toMatchObject({
      passageId: 'five-steps',
      variantId: 'first',
      sectionId: 'whole',
      last: { takeId: TAKE_ID },
    });
    expect(config?.last?.summary).toEqual(take.summary);
    expect(config?.strategies['half-speed-climb']?.state).toEqual(take.strategy?.state);
    const own = API.config.parse(await (await patch('/practice-configs/five-steps.first.whole', { goalBpm: 133 })).json());
    expect(own).toEqual({ ...config, goalBpm: 133 });
    // One that was never played begins with what is changed of it.
    const fresh = await patch('/practice-configs/rolling-threes.first.whole', { methodId: 'straight', goalBpm: 90 });
    expect(API.config.parse(await fresh.json())).toMatchObject({ passageId: 'rolling-threes', goalBpm: 90, last: null });
    expect((await patch('/practice-configs/no-such.first.whole', { goalBpm: 90 })).status).toBe(404);
  });

  it('measured from a changed passage are still measured by what was played', async () => {
    await put('/passages/five-steps', { ...passage, notes: passage.notes.slice(0, 12), variants: [] });
    const stored = TakeSchema.parse(await (await fetch(`${base}/takes/${TAKE_ID}`)).json());
    const first = stored.repetitions[0] as Repetition;
    const between = ((first.notes[3]?.expectedS ?? 0) + (first.notes[4]?.expectedS ?? 0)) / 2;
    const edited = editRepetition(stored, first, { kind: 'add', onset: { timeS: between, levelDb: -20 } });
    expect(edited.notes).toHaveLength(17);
    expect(edited.measures.missed).toBe(first.measures.missed);
    await put('/passages/five-steps', passage);
  });

  it('are read whole while they are written, and many may come at once', async () => {
    const shorter: Take = { ...take, repetitions: take.repetitions.slice(0, 2) };
    const writes = Array.from({ length: 20 }, async (_, k) => {
      const one = k % 2 ? take : shorter;
      // Each goes on until nothing came between its reading and its writing.
      for (;;) {
        const answer = await putAnew(one);
        if (answer.status !== 412) return answer;
      }
    });
    const reads = Array.from({ length: 60 }, async () => {
      const response = await fetch(`${base}/takes/${TAKE_ID}`);
      const read = TakeSchema.parse(await response.json());
      return [read.repetitions.length, read.summary?.closingBpm];
    });
    expect((await Promise.all(writes)).map(({ status }) => status)).toEqual(writes.map(() => 200));
    for (const [count] of await Promise.all(reads)) expect([2, take.repetitions.length]).toContain(count);
    await putAnew(take);
  });

  it('are listed by passage, newest first', async () => {
    expect(await takesAt('?passageId=five-steps')).toHaveLength(1);
    expect(await takesAt('?passageId=rolling-threes')).toEqual([]);
  });

  it('of an unknown practice session or passage are refused, and nothing of them is kept', async () => {
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
  /** Under whatever name it lies. */
  const soundFile = async () => (await getRecording(store, TAKE_ID))?.path ?? '';
  const wav = writeWav(
    Float32Array.from({ length: 4800 }, (_, n) => Math.sin(n / 20) / 2),
    48_000,
  );

  it('are stored beside the database and come back byte for byte', async () => {
    expect((await putWav(`/takes/${TAKE_ID}/recording`, wav)).status).toBe(200);
    expect(await readdir(join(folder, 'recordings'))).toEqual([`${TAKE_ID}.wav`]);
    const response = await fetch(`${base}/takes/${TAKE_ID}/recording`);
    expect(response.headers.get('content-type')).toContain('audio/');
    expect(new Uint8Array(await response.arrayBuffer())).toEqual(wav);
    expect(TakeSchema.parse(await (await fetch(`${base}/takes/${TAKE_ID}`)).json()).hasRecording).toBe(true);
  });

  it('that are no WAV, or empty, leave the stored one in place', async () => {
    expect((await putWav(`/takes/${TAKE_ID}/recording`, new TextEncoder().encode('not a recording'))).status).toBe(400);
    expect((await putWav(`/takes/${TAKE_ID}/recording`, new Uint8Array(0))).status).toBe(400);
    expect(new Uint8Array(await readFile(await soundFile()))).toEqual(wav);
    expect(await readdir(join(folder, 'recordings'))).toHaveLength(1);
  });

  it('that are cut short, that are no more than a name, or that come in tiny pieces, are told apart', async () => {
    const path = `/takes/${TAKE_ID}/recording`;
    expect((await putWav(path, new TextEncoder().encode('RIFF'))).status).toBe(400);
    const inPieces = new ReadableStream<Uint8Array>({
      start(controller) {
        controller.enqueue(wav.slice(0, 2));
        controller.enqueue(wav.slice(2));
        controller.close();
      },
    });
    const sent = await fetch(base + path, {
      method: 'PUT',
      headers: { 'Content-Type': 'audio/wav' },
      body: inPieces,
      duplex: 'half',
    } as never);
    expect(sent.status).toBe(200);
    // What was announced and what came must agree.
    const short = { ...wholeRecording(), announcedBytes: wav.length + 10 };
    await expect(putRecording(store, TAKE_ID, Readable.from([Buffer.from(wav)]), short)).rejects.toThrow('whole');
    expect(new Uint8Array(await readFile(await soundFile()))).toEqual(wav);
    expect(await readdir(join(folder, 'recordings'))).toHaveLength(1);
  });

  it('may come twice at once: one of them is there, whole', async () => {
    const answers = await Promise.all(Array.from({ length: 8 }, () => putWav(`/takes/${TAKE_ID}/recording`, wav)));
    expect(answers.map(({ status }) => status)).toEqual(answers.map(() => 200));
    expect(new Uint8Array(await readFile(await soundFile()))).toEqual(wav);
  });

  it('leave nothing behind where they were broken off', async () => {
    const left = join(folder, 'recordings', `${TAKE_ID}.wav.x.part`);
    await writeFile(left, 'half');
    await sweepRecordings(store);
    expect(await readdir(join(folder, 'recordings'))).toEqual([basename(await soundFile())]);
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
    await patch('/settings', { noteNaming: 'american' });
    expect(API.settings.parse(await (await fetch(`${base}/settings`)).json()).noteNaming).toBe('american');
  });

  it('changed in two tabs keep what each of them changed', async () => {
    await Promise.all([patch('/settings', { clickLevel: 0.31 }), patch('/settings', { announce: false })]);
    expect(await getPlayerSettings(store)).toMatchObject({ noteNaming: 'american', clickLevel: 0.31, announce: false });
    expect((await patch('/settings', { clickLevel: 7 })).status).toBe(400);
  });

  it('keeps every setting but the one that is changed, also where it has a default', async () => {
    // None of them as it is without a choice.
    const chosen = {
      afterBreak: 'bar',
      speaks: true,
      voice: 'A voice',
      marksBar: false,
      playAlongLevel: 0.2,
      lastPainDay: '2026-11-20',
    };
    for (const [key, value] of Object.entries(chosen)) await patch('/settings', { [key]: value });
    await patch('/settings', { clickLevel: 0.32 });
    expect(await (await fetch(`${base}/settings`)).json()).toMatchObject({ ...chosen, clickLevel: 0.32 });
    expect((await patch('/settings', { speaks: 'loudly' })).status).toBe(400);
    expect((await patch('/settings', { lastPainDay: 'someday' })).status).toBe(400);
  });

  it('that are missing or cannot be read take their defaults, the others stay', async () => {
    await store.write((transaction) =>
      store.models.settings.upsert({ key: 'player', document: { clickLevel: 0.25, input: 'a gramophone' } }, { transaction }),
    );
    expect(API.settings.parse(await (await fetch(`${base}/settings`)).json())).toEqual({
      ...DEFAULT_SETTINGS,
      clickLevel: 0.25,
    });
  });
});

describe('a re-analysis', () => {
  const RECORDED_ID = '0f8fad5b-d9cb-469f-a165-70867728950e';
  const recorded = practise({
    takeId: RECORDED_ID,
    sessionId: PRACTICE_SESSION.id,
    startedAt: new Date(AT),
    passage,
    config: newPracticeConfig(passage, DEFAULT_SETTINGS),
    startBpm: 100,
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
    await put(`/sessions/${PRACTICE_SESSION.id}`, PRACTICE_SESSION);
    await putAnew(old);
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
  });

  it('can be cancelled, and says what a damaged recording keeps', async () => {
    await start(RECORDED_ID);
    const answer = await fetch(`${base}/reanalysis`, { method: 'DELETE' });
    expect(API.reanalysis.parse(await answer.json()).running).toBe(false);
    const broken = Uint8Array.from([
      ...new TextEncoder().encode('RIFF....WAVE'),
      ...new Uint8Array(52),
    ]) as Uint8Array<ArrayBuffer>;
    await putWav(`/takes/${RECORDED_ID}/recording`, broken);
    await start(RECORDED_ID);
    expect((await finished()).message).toContain('keeps its old figures');
    expect((await fetch(`${base}/takes/${RECORDED_ID}`)).status).toBe(200);
  });
});

describe('a database of an earlier version', () => {
  /** A folder with the database that version 2 left, as that version wrote it. */
  const olderFolder = async () => {
    const older = await mkdtemp(join(tmpdir(), 'isochron-older-'));
    await copyFile(join(import.meta.dirname, 'database', 'fixtures', 'version-2.db'), join(older, 'isochron.db'));
    return older;
  };
  interface OldTake {
    id: string;
    repetitions: {
      tempoBpm: number;
      measures: object;
      notes: object[];
      extras: object[];
      edits?: object[];
      verdict: { outcome: string; reason: string; sentence: string };
      decision: { nextTempoBpm: number; reason: string };
      ease: string | null;
    }[];
  }
  const oldTakes = async (): Promise<OldTake[]> =>
    JSON.parse(await readFile(join(import.meta.dirname, 'database', 'fixtures', 'version-2-takes.json'), 'utf8'));

  it('is copied and brought up to date; takes show the same figures and sentences, settings stay', async () => {
    const older = await olderFolder();
    const opened = await openStore(older);
    try {
      for (const old of await oldTakes()) {
        const now = await getTake(opened, old.id);
        expect(now?.repetitions).toHaveLength(old.repetitions.length);
        now?.repetitions.forEach((repetition, k) => {
          const before = old.repetitions[k] as OldTake['repetitions'][number];
          const { measures, notes, extras, edits, ease } = repetition;
          expect(rounded({ measures, notes, extras, edits, ease })).toEqual(
            rounded({
              measures: before.measures,
              notes: before.notes,
              extras: before.extras,
              edits: before.edits,
              ease: before.ease,
            }),
          );
          expect(headlineBpm(repetition.tempo)).toBe(before.tempoBpm);
          expect(headlineBpm(repetition.decision.tempo)).toBe(before.decision.nextTempoBpm);
          expect(repetition.verdict).toMatchObject({ outcome: before.verdict.outcome, reason: before.verdict.reason });
          expect(describeReason(repetition.verdict.why, { noteNaming: 'british' })).toBe(before.verdict.sentence);
          expect(describeReason(repetition.decision.why, { noteNaming: 'british' })).toBe(before.decision.reason);
        });
      }
      const settings = await getPlayerSettings(opened);
      expect(settings).toMatchObject({ noteNaming: 'american', strategyOptions: { 'half-speed-climb': { stepBpm: 10 } } });
      expect(settings.calibrations).toHaveLength(1);
      const practiceConfigs = await listPracticeConfigs(opened);
      expect(practiceConfigs.map(({ passageId }) => passageId).sort()).toEqual([
        'five-steps',
        'hands-together',
        'in-on-the-upbeat',
      ]);
      expect(practiceConfigs.every(({ last }) => last !== null)).toBe(true);
      expect((await listPassages(opened)).map(({ id }) => id).sort()).toEqual(BUILT_IN_PASSAGES.map(({ id }) => id).sort());
      expect(await opened.models.sessions.count()).toBe(1);
      const [earlier] = await earlierAnalyses(opened, TAKE_ID);
      expect(earlier?.repetitions).toHaveLength(1);
    } finally {
      await opened.close();
    }
    expect(await readdir(older)).toContain('isochron.before-0003-seams.db');
    await rm(older, { recursive: true });
  });

  it('keeps what was played: a take whose exercise was edited since is corrected against its own notes', async () => {
    const older = await olderFolder();
    const opened = await openStore(older);
    // Its exercise lost five of its fourteen notes after it was played.
    const played = (await getTake(opened, 'c9bf9e57-1685-4c89-bafb-ff5af830be8a')) as Take;
    const first = played.repetitions[0] as Repetition;
    expect(played.drills[0]?.grid.events).toHaveLength(14);
    const onset = { timeS: ((first.notes[0]?.expectedS ?? 0) + (first.notes[1]?.expectedS ?? 0)) / 2, levelDb: -20 };
    const added = editRepetition(played, first, { kind: 'add', onset });
    const back = editRepetition(played, added, { kind: 'remove', onset });
    expect(added.notes).toHaveLength(14);
    expect(back.measures.missed).toBe(first.measures.missed);
    expect(back.measures.extra).toBe(first.measures.extra);
    await opened.close();
    await rm(older, { recursive: true });
  });

  it('whose migration is broken off is as it was, and opens the next time', async () => {
    const older = await olderFolder();
    const file = join(older, 'isochron.db');
    const { size } = await stat(file);
    // A configuration table that is in the way makes the migration fail in its middle.
    const database = new Sequelize({ dialect: 'sqlite', storage: file, logging: false });
    await database.query('CREATE TABLE practiceConfigs (id TEXT)');
    await database.close();
    await expect(openStore(older)).rejects.toThrow();
    const again = new Sequelize({ dialect: 'sqlite', storage: file, logging: false });
    const [names] = await again.query("SELECT name FROM sqlite_master WHERE type = 'table'");
    expect(JSON.stringify(names)).toContain('exercises');
    expect(JSON.stringify(names)).not.toContain('passages');
    await again.query('DROP TABLE practiceConfigs');
    await again.close();
    const opened = await openStore(older);
    expect(await opened.models.takes.count()).toBe(3);
    await opened.close();
    expect((await stat(join(older, 'isochron.before-0003-seams.db'))).size).toBeGreaterThanOrEqual(size);
    await rm(older, { recursive: true });
  });

  it('of the first version comes through as well', async () => {
    const older = await mkdtemp(join(tmpdir(), 'isochron-first-'));
    const database = new Sequelize({ dialect: 'sqlite', storage: join(older, 'isochron.db'), logging: false });
    const tables = database.getQueryInterface();
    await firstTables.up({ context: tables });
    await database.query('CREATE TABLE SequelizeMeta (name VARCHAR(255) PRIMARY KEY)');
    await tables.bulkInsert('SequelizeMeta', [{ name: firstTables.name }]);
    await tables.bulkInsert('sessions', [{ id: PRACTICE_SESSION.id, startedAt: AT }]);
    const document = {
      ...{ id: 'old-one', title: 'An old one', about: '', meter: { count: 4, unit: 4 }, beatUnit: '1/4', pickup: '0', bars: 1 },
      events: [
        { at: '0', length: '1', pitches: [60, 64], hands: ['left', 'right'] },
        { at: '1', length: '3', pitches: [] },
      ],
      goalBpm: 100,
    };
    await tables.bulkInsert('exercises', [{ id: 'old-one', title: 'An old one', document: JSON.stringify(document) }]);
    await tables.bulkInsert('takes', [
      {
        ...{
          id: TAKE_ID,
          sessionId: PRACTICE_SESSION.id,
          exerciseId: 'old-one',
          startedAt: AT,
          endedAt: AT,
          input: 'tap',
          engine: '1',
        },
        ...{ school: 'half-speed-climb', goalBpm: 100, startBpm: 50, stepBpm: 5, latencyS: null, closing: null },
        ...{ tolerance: JSON.stringify(DEFAULT_SETTINGS.tolerance), repetitionCount: 0, cleanCount: 0 },
      },
    ]);
    await database.close();
    const opened = await openStore(older);
    const stored = await getTake(opened, TAKE_ID);
    expect(stored).toMatchObject({ passageId: 'old-one', title: 'An old one', profile: 'any', withoutClick: false });
    expect(stored?.drills[0]?.grid.events.map((event) => event.notes.length)).toEqual([2, 1]);
    await opened.close();
    expect(await readdir(older)).toContain('isochron.before-0002-engine-two.db');
    await rm(older, { recursive: true });
  });
});

describe('a database that cannot be used', () => {
  const inFolder = async (prepare: (folder: string) => Promise<void>, check: (folder: string) => Promise<void>) => {
    const other = await mkdtemp(join(tmpdir(), 'isochron-trouble-'));
    try {
      await prepare(other);
      await check(other);
    } finally {
      await rm(other, { recursive: true });
    }
  };
  const trouble = (other: string) =>
    openStore(other).then(
      () => '',
      (error: Error) => `${error.constructor.name}: ${error.message}`,
    );

  it('since a newer version wrote it is refused with a sentence, and left as it is', () =>
    inFolder(
      async (other) => {
        const newer = await openStore(other);
        await newer.database.query("INSERT INTO SequelizeMeta (name) VALUES ('0999-of-tomorrow')");
        await newer.close();
      },
      async (other) => {
        expect(await trouble(other)).toMatch(/^StoreError: .* newer version of Isochron/);
      },
    ));

  it('since it is damaged gets a sentence that names the newest copy', () =>
    inFolder(
      async (other) => {
        await writeFile(
          join(other, 'isochron.db'),
          'This is no database, but it is long enough to be taken for one. '.repeat(100),
        );
        await writeFile(join(other, 'isochron.before-0003-seams.db'), 'a copy');
      },
      async (other) => {
        expect(await trouble(other)).toMatch(
          /^StoreError: .* is damaged\. The last good copy is isochron\.before-0003-seams\.db, made [\s\S]*isochron\.db-wal/,
        );
        expect((await readFile(join(other, 'isochron.db'), 'utf8')).slice(0, 7)).toBe('This is');
      },
    ));

  it('since it is empty is not taken for a new player’s where there are recordings; on a first start it is', () =>
    inFolder(
      (other) => writeFile(join(other, 'isochron.db'), ''),
      async (other) => {
        const first = await openStore(other);
        await first.close();
        await writeFile(join(other, 'isochron.db'), '');
        for (const side of ['-wal', '-shm']) await rm(join(other, `isochron.db${side}`), { force: true });
        await writeFile(join(other, 'recordings', `${TAKE_ID}.wav`), 'RIFF');
        expect(await trouble(other)).toMatch(/^StoreError: .* is empty\./);
      },
    ));
});

describe('the door', () => {
  it('is shut to other sites and other hosts', async () => {
    const { port } = running;
    for (const headers of [
      { Origin: 'http://example.org' },
      { Origin: 'not an origin' },
      { Origin: `https://127.0.0.1:${port}` },
      { Origin: `http://127.0.0.1:${port + 1}` },
      { 'Sec-Fetch-Site': 'cross-site' },
    ] as Record<string, string>[])
      expect((await put(`/sessions/${PRACTICE_SESSION.id}`, PRACTICE_SESSION, headers)).status).toBe(403);
    expect(
      (await put(`/sessions/${PRACTICE_SESSION.id}`, PRACTICE_SESSION, { Origin: `http://127.0.0.1:${port}` })).status,
    ).toBe(200);
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
