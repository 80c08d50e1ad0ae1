/**
 * `npm run bench:years`: how quick Isochron is after years of practice. Fills a data folder with 100, then 100 000 takes, and times
 * every request and every place over each; then a take of 2 000 notes, a file of an hour, and inputs that invite quadratic work.
 * Prints the tables of docs/figures.md.
 */
import { execFileSync } from 'node:child_process';
import { randomUUID } from 'node:crypto';
import { closeSync, mkdtempSync, openSync, readFileSync, rmSync, statSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { listenToRecording, measureImport, profileOf } from '@isochron/core/analysis';
import {
  BUILT_IN_PASSAGES,
  builtInPassage,
  constantTempo,
  openWav,
  planRepetition,
  readWav,
  writeSmf,
  writeWav,
} from '@isochron/core/material';
import { firstDrill } from '@isochron/core/planning';
import { type Passage, STEADY, type Take, TOLERANCE_PRESETS } from '@isochron/core/schema';
import { PLUCKED_STRING, renderPlaying, simulatePlaying } from '@isochron/core/simulation';
import { type Browser, chromium } from '@playwright/test';
import { QueryTypes } from 'sequelize';
import { chromiumWith } from '../e2e/chromium';
import { openStore } from '../server/src/database/open';
import { storeMissingPassages } from '../server/src/passages';
import { putPracticeSession } from '../server/src/practice-sessions';
import { fileBytes } from '../server/src/reanalysis/file-bytes';
import { putTake } from '../server/src/takes';
import { makeOne, PRACTICE_SESSION, sendJson } from '../server/src/testing/made-takes';
import { type SpawnedServer, spawnServer } from '../server/src/testing/spawn-server';

const FEW = 100;
const MANY = 100_000;
const REQUESTS = 25;
const YEARS = 10;
const work = mkdtempSync(join(tmpdir(), 'isochron-years-'));

const quantile = (values: readonly number[], share: number): number =>
  [...values].sort((a, b) => a - b)[Math.min(values.length - 1, Math.floor(share * values.length))] as number;

/** A data folder with so many takes over ten years, three in five of one passage; each with its repetitions. */
const fill = async (count: number): Promise<string> => {
  const folder = join(work, String(count));
  const store = await openStore(folder);
  await storeMissingPassages(store, BUILT_IN_PASSAGES);
  await putPracticeSession(store, PRACTICE_SESSION);
  const pattern = makeOne();
  await putTake(store, pattern);
  const { database } = store;
  const columnsOf = async (table: string) =>
    (
      await database.query<{ name: string }>('SELECT name FROM pragma_table_xinfo(?) WHERE hidden = 0', {
        replacements: [table],
        type: QueryTypes.SELECT,
      })
    ).map(({ name }) => name);
  const passages = BUILT_IN_PASSAGES.map(({ id }) => id);
  const passage = `CASE WHEN n % 5 < 3 THEN '${passages[0]}' ELSE json_extract('${JSON.stringify(passages)}', '$[' || (n % ${passages.length}) || ']') END`;
  const own: Record<string, string> = {
    id: "printf('%08x-0000-4000-8000-000000000000', n)",
    takeId: "printf('%08x-0000-4000-8000-000000000000', n)",
    passageId: passage,
    startedAt: `strftime('%Y-%m-%dT%H:%M:%fZ', '2016-11-20', '+' || CAST(n * ${(YEARS * 365 * 86_400) / MANY} AS INTEGER) || ' seconds')`,
    startBpm: '40 + n % 97',
    hasRecording: 'n % 3 = 0',
    // Made by copying: as rows from before checksums are, they are taken as they are.
    checksum: "''",
    summary: "json_set(summary, '$.bestCleanBpm', 50 + n % 89, '$.closingBpm', 45 + n % 83)",
  };
  const numbers = `WITH RECURSIVE numbers (n) AS (SELECT 1 UNION ALL SELECT n + 1 FROM numbers WHERE n < ${count})`;
  for (const [table, where] of [
    ['takes', 'id'],
    ['repetitions', 'takeId'],
  ] as const) {
    const columns = await columnsOf(table);
    const names = columns.map((name) => `"${name}"`).join();
    const values = columns.map((name) => own[name] ?? `${table}."${name}"`).join();
    await database.query(
      `INSERT INTO ${table} (${names}) ${numbers} SELECT ${values} FROM numbers, ${table} WHERE ${table}."${where}" = ?` +
        (table === 'repetitions' ? ' AND "index" < 2' : ''),
      { replacements: [pattern.id] },
    );
  }
  await database.query('ANALYZE');
  await store.close();
  return folder;
};

interface Timed {
  name: string;
  medianMs: number;
  worstMs: number;
  /** The first one, before anything was compiled or cached. */
  firstMs: number;
}

const timed = async (name: string, ask: () => Promise<Response>): Promise<Timed> => {
  const times: number[] = [];
  for (let k = 0; k < REQUESTS; k += 1) {
    const from = performance.now();
    const answer = await ask();
    await answer.arrayBuffer();
    times.push(performance.now() - from);
    if (!answer.ok) throw new Error(`${name}: ${answer.status}`);
  }
  const [firstMs = 0, ...others] = times;
  return { name, firstMs, medianMs: quantile(others, 0.5), worstMs: Math.max(...others) };
};

const requests = async ({ api }: SpawnedServer, count: number): Promise<Timed[]> => {
  const first = BUILT_IN_PASSAGES[0]?.id;
  const id = `${Math.floor(count / 2)
    .toString(16)
    .padStart(8, '0')}-0000-4000-8000-000000000000`;
  const get = (path: string) => () => fetch(api + path);
  const deep = Math.floor(count * 0.55);
  return [
    await timed('passages', get('/passages')),
    await timed('practiceConfigs', get('/practice-configs')),
    await timed('takes of a passage, first page', get(`/takes?passageId=${first}&limit=100`)),
    await timed('takes of a passage, last page', get(`/takes?passageId=${first}&limit=100&offset=${deep}`)),
    await timed('takes by best clean tempo', get(`/takes?passageId=${first}&limit=100&sort=bestCleanBpm`)),
    await timed('takes with a recording, by start', get(`/takes?passageId=${first}&limit=100&show=recorded&sort=startBpm`)),
    await timed('takes with a clean repetition', get(`/takes?passageId=${first}&limit=100&show=clean&sort=repetitionCount`)),
    await timed('takes of all passages', get('/takes?limit=100')),
    await timed('tempo history', get(`/passages/${first}/history`)),
    await timed('days of half a year, all passages', get('/practice?from=2026-05-20')),
    await timed('days of a passage, a year', get(`/practice?passageId=${first}&every=true&from=2025-11-20`)),
    await timed('a configuration altogether', get(`/practice/totals?passageId=${first}&variantId=first&sectionId=whole`)),
    await timed('a passage over all years, by stretches', get(`/passages/${first}/progress?variantId=first&sectionId=whole`)),
    await timed('recordings to play along with', get('/accompaniments')),
    await timed('takes with words that none has', get('/takes?limit=100&text=no%20such%20words')),
    await timed('takes with words that most have', get('/takes?limit=100&text=steps')),
    await timed('what is due for measuring anew', get('/reanalysis')),
    await timed('one take', get(`/takes/${id}`)),
    await timed('storing a take', () => {
      const take = makeOne();
      return sendJson(`${api}/takes/${take.id}`, 'PUT', take);
    }),
    await timed('changing a setting', () => sendJson(`${api}/settings`, 'PATCH', { clickLevel: 0.5 })),
    await timed('health', get('/health')),
  ];
};

/** The places, and what is seen when each can be used. */
const PLACES: readonly { name: string; path: string; usable: string }[] = [
  { name: 'Today', path: '/', usable: 'ol li a' },
  { name: 'Bench', path: '/bench/five-steps', usable: 'button[type=submit]' },
  { name: 'Material', path: '/material', usable: 'main a[href^="/bench/"]' },
  { name: 'Ledger', path: '/ledger', usable: 'main table tbody tr td a' },
  { name: 'A passage over weeks', path: '/ledger/tempo/five-steps', usable: '[data-testid=goal-range]' },
  { name: 'Setup', path: '/setup', usable: 'main input:visible' },
];

const places = async (browser: Browser, { api }: SpawnedServer, takeId: string): Promise<Timed[]> => {
  const base = api.replace('/api', '');
  const found: Timed[] = [];
  const all = [...PLACES, { name: 'A take', path: `/ledger/${takeId}`, usable: 'main table tbody tr' }];
  for (const { name, path, usable } of all) {
    const times: number[] = [];
    for (let k = 0; k < 7; k += 1) {
      const page = await browser.newPage();
      const from = performance.now();
      await page.goto(base + path);
      await page.locator(usable).first().waitFor();
      times.push(performance.now() - from);
      await page.close();
    }
    found.push({ name, firstMs: times[0] ?? 0, medianMs: quantile(times, 0.5), worstMs: Math.max(...times) });
  }
  return found;
};

const peakMb = ({ process: child }: SpawnedServer): number =>
  Number(/VmHWM:\s+(\d+)/.exec(readFileSync(`/proc/${child.pid}/status`, 'utf8'))?.[1]) / 1000;

const over = async (count: number) => {
  const folder = await fill(count);
  const server = await spawnServer(folder);
  const browser = await chromium.launch(chromiumWith());
  try {
    const asked = await requests(server, count);
    const seen = await places(browser, server, '00000010-0000-4000-8000-000000000000');
    return { asked, seen, peak: peakMb(server), databaseMb: statSync(join(folder, 'isochron.db')).size / 1e6 };
  } finally {
    await browser.close();
    await server.kill();
    rmSync(folder, { recursive: true });
  }
};

const row = (...cells: (string | number)[]) =>
  console.log(`| ${cells.map((cell) => (typeof cell === 'number' ? cell.toFixed(cell < 10 ? 1 : 0) : cell)).join(' | ')} |`);

/** A take of two repetitions of a thousand notes each. */
const longTake = (): Take => {
  const take = makeOne();
  const [repetition] = take.repetitions;
  const [note] = repetition?.notes ?? [];
  if (!repetition || !note) throw new Error('nothing to make it of');
  const notes = Array.from({ length: 1000 }, (_, index) => ({
    ...note,
    index,
    expectedS: index / 7,
    onsetS: index / 7 + 0.0012345,
  }));
  return { ...take, repetitions: [0, 1].map((index) => ({ ...repetition, index, notes })) };
};

const takeOf2000 = async () => {
  const folder = join(work, 'long');
  const store = await openStore(folder);
  await storeMissingPassages(store, BUILT_IN_PASSAGES);
  await store.close();
  const server = await spawnServer(folder);
  await sendJson(`${server.api}/sessions/${PRACTICE_SESSION.id}`, 'PUT', PRACTICE_SESSION);
  const long = longTake();
  const stored = await timed('stored', () => sendJson(`${server.api}/takes/${randomUUIDOf(long)}`, 'PUT', long));
  const read = await timed('read', () => fetch(`${server.api}/takes/${long.id}`));
  await server.kill();
  return { stored, read };
};

/** Gives a take another id, so that it is a new one. */
const randomUUIDOf = (take: Take): string => {
  take.id = randomUUID();
  return take.id;
};

/** An hour of a simulated player with a metronome in the ear: repetitions one after the other. */
const hourOf = (minutes: number) => {
  const drill = firstDrill(builtInPassage('five-steps') as Passage);
  const tempo = constantTempo(100);
  const rate = 48_000;
  const plan = planRepetition({ drill, tempo, startS: 0 });
  const everyS = plan.endS + 1;
  const sound = new Float32Array(minutes * 60 * rate);
  for (let k = 0; (k + 1) * everyS < minutes * 60; k += 1) {
    const played = simulatePlaying(plan.notes, { ...STEADY, spreadMs: 8 }, tempo, k + 1);
    const lengthS = plan.endS;
    sound.set(
      renderPlaying({
        played,
        grid: drill.grid,
        tempo,
        instrument: PLUCKED_STRING,
        sampleRateHz: rate,
        lengthS,
        seed: k,
        noiseDb: -62,
      }),
      Math.round(k * everyS * rate),
    );
  }
  const file = join(work, 'hour.wav');
  writeFileSync(file, writeWav(sound, rate));
  return { file, drill, tempo };
};

const hour = () => {
  const minutes = 60;
  const { file, drill, tempo } = hourOf(minutes);
  const handle = openSync(file, 'r');
  const from = performance.now();
  const sound = openWav(fileBytes(handle));
  const profile = profileOf('plucked');
  const onsets = listenToRecording(sound, { profile });
  const heardMs = performance.now() - from;
  const repetitions = measureImport(onsets, { drill, tempo, tolerance: TOLERANCE_PRESETS.secure, profile });
  const allMs = performance.now() - from;
  closeSync(handle);
  return { minutes, heardMs, allMs, onsets: onsets.length, repetitions: repetitions.length };
};

const quadratic = () => {
  const together = Array.from({ length: 20_000 }, (_, k) => ({ timeS: 1, levelDb: -10, pitch: 21 + (k % 88) }));
  const midi = join(work, 'together.mid');
  writeFileSync(midi, writeSmf(together));
  const from = performance.now();
  measureImport(together, {
    drill: firstDrill(builtInPassage('hands-together') as Passage),
    tempo: constantTempo(100),
    tolerance: TOLERANCE_PRESETS.secure,
    profile: profileOf('midi'),
  });
  const togetherMs = performance.now() - from;
  const wav = join(work, 'minute.wav');
  const hourFile = join(work, 'hour.wav');
  const minute = readWav(readFileSync(hourFile).subarray(0, 44 + 60 * 48_000 * 2));
  writeFileSync(wav, writeWav(minute.samples, minute.sampleRateHz));
  const asked = performance.now();
  const args = ['--per-beat', '24', '--beats', '4000', '--bpm', '120', '--start', '0'];
  execFileSync(process.execPath, ['scripts/isochron.mjs', 'measure', wav, ...args], { stdio: 'ignore' });
  const measureMs = performance.now() - asked;
  const again = performance.now();
  execFileSync(process.execPath, ['scripts/isochron.mjs', 'measure', hourFile, ...args], { stdio: 'ignore' });
  return { togetherMs, measureMs, measureHourMs: performance.now() - again };
};

try {
  const few = await over(FEW);
  const many = await over(MANY);
  console.log(
    `\n| request, ms: median (worst) of ${REQUESTS - 1} after the first | ${FEW} takes | ${MANY} takes |\n|---|---|---|`,
  );
  few.asked.forEach(({ name, medianMs, worstMs }, k) => {
    const there = many.asked[k] as Timed;
    row(name, `${medianMs.toFixed(1)} (${worstMs.toFixed(0)})`, `${there.medianMs.toFixed(1)} (${there.worstMs.toFixed(0)})`);
  });
  console.log(
    `\n| place, ms until it can be used, median of 7 | ${FEW} takes | ${MANY} takes | difference |\n|---|---|---|---|`,
  );
  few.seen.forEach(({ name, medianMs }, k) => {
    const there = many.seen[k] as Timed;
    row(name, medianMs, there.medianMs, there.medianMs - medianMs);
  });
  console.log(
    `\nPeak memory of the server: ${few.peak.toFixed(0)} MB and ${many.peak.toFixed(0)} MB; database ${many.databaseMb.toFixed(0)} MB.`,
  );
  const { stored, read } = await takeOf2000();
  console.log(
    `A take of 2 000 notes: stored in ${stored.medianMs.toFixed(0)} ms (worst ${stored.worstMs.toFixed(0)}, the first ever ${stored.firstMs.toFixed(0)}), read in ${read.medianMs.toFixed(0)} ms (worst ${read.worstMs.toFixed(0)}, the first ever ${read.firstMs.toFixed(0)}).`,
  );
  const { minutes, heardMs, allMs, onsets, repetitions } = hour();
  console.log(
    `A file of ${minutes} min (${onsets} onsets, ${repetitions} repetitions): ${(allMs / minutes / 1000).toFixed(2)} s a minute, of which ${(heardMs / minutes / 1000).toFixed(2)} listening.`,
  );
  const { togetherMs, measureMs, measureHourMs } = quadratic();
  console.log(
    `20 000 notes at one moment: ${(togetherMs / 1000).toFixed(1)} s. \`measure --per-beat 24 --beats 4000\`: ${(measureMs / 1000).toFixed(1)} s on a minute of sound, ${(measureHourMs / 1000).toFixed(1)} s on the hour.`,
  );
} finally {
  rmSync(work, { recursive: true, force: true });
}
