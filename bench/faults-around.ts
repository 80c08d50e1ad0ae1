/**
 * The second half of `npm run bench:faults`: what can destroy practice from around the server. A restore and a backup are killed at every one
 * of their steps; 200 hostile and 500 mutated backups are restored; bytes of databases are flipped; another program looks in at every stage.
 * Prints the tables of docs/figures.md. `-- --only kills|hostile|mutated|flips|bodies` for one of them, `-- --share 0.1` for a part of each.
 */
import { readFileSync } from 'node:fs';
import { copyFile, mkdtemp, open, readdir, rm, stat } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { parseArgs } from 'node:util';
import { chance } from '@isochron/core/analysis';
import { BUILT_IN_PASSAGES } from '@isochron/core/material';
import type { Take } from '@isochron/core/schema';
import { openStore } from '../server/src/database/open';
import { StoreError } from '../server/src/database/store-error';
import { checkRows, hideDamaged } from '../server/src/integrity/check-rows';
import { storeMissingPassages } from '../server/src/passages';
import { putPracticeSession } from '../server/src/practice-sessions';
import { getTake, putTake } from '../server/src/takes';
import { createAttackedStore } from '../server/src/testing/attacked-store';
import { HOSTILE } from '../server/src/testing/hostile-backups';
import { createKilledCommands } from '../server/src/testing/killed-commands';
import { makeOne, PRACTICE_SESSION } from '../server/src/testing/made-takes';
import { spawnServer } from '../server/src/testing/spawn-server';

const { values } = parseArgs({ options: { only: { type: 'string' }, share: { type: 'string', default: '1' } } });
const SHARE = Number(values.share);
const some = (count: number): number => Math.max(1, Math.round(SHARE * count));
const tallied = (tally: Map<string, number>, name: string): void => {
  tally.set(name, (tally.get(name) ?? 0) + 1);
};

const kills = async (): Promise<void> => {
  const run = await createKilledCommands();
  console.log('\n| killed at a step | steps | tried | as before | as in the backup | neither |\n|---|---|---|---|---|---|');
  for (const command of ['restore', 'backup'] as const) {
    const steps = await run.steps(command);
    const tally = new Map<string, number>();
    const every = 1 / SHARE;
    for (let at = 1; at <= steps; at += every) {
      const after = await run.kill(command, Math.floor(at));
      const name = after === 'as before' || after === 'as in the backup' ? after : 'neither';
      if (name === 'neither') console.error(`${command}, step ${Math.floor(at)}: ${after}`);
      tallied(tally, name);
    }
    const count = (name: string) => tally.get(name) ?? 0;
    const tried = [...tally.values()].reduce((sum, one) => sum + one, 0);
    console.log(
      `| ${command} | ${steps} | ${tried} | ${count('as before')} | ${count('as in the backup')} | ${count('neither')} |`,
    );
  }
  await run.close();
};

const backups = async (kind: 'hostile' | 'mutated', count: number): Promise<void> => {
  const store = await createAttackedStore();
  const kinds = Object.keys(HOSTILE);
  const tally = new Map<string, number>();
  for (let k = 0; k < count; k += 1) {
    const name = kinds[k % kinds.length] as string;
    const { refused, wrong } = await (kind === 'hostile' ? store.hostile(name, 1000 + k) : store.mutated(1000 + k));
    if (wrong) console.error(`${kind} ${k} (${name}): ${wrong}`);
    tallied(tally, wrong ? 'wrong' : refused === null ? 'restored' : 'refused');
  }
  await store.close();
  const of = (name: string) => tally.get(name) ?? 0;
  console.log(`| ${kind} backups | ${count} | ${of('refused')} | ${of('restored')} | ${of('wrong')} |`);
};

/** Databases of thirty takes in which some bytes were flipped: what each take then is. */
const flips = async (bytes: number, runs: number): Promise<void> => {
  const folder = await mkdtemp(join(tmpdir(), 'isochron-flips-'));
  const store = await openStore(folder);
  await storeMissingPassages(store, BUILT_IN_PASSAGES);
  await putPracticeSession(store, PRACTICE_SESSION);
  const stored = new Map<string, string>();
  for (let k = 0; k < 30; k += 1) {
    const take: Take = makeOne();
    await putTake(store, take);
    stored.set(take.id, JSON.stringify(await getTake(store, take.id)));
  }
  await store.close();
  const tally = new Map<string, number>();
  for (let seed = 1; seed <= runs; seed += 1) {
    const { uniform } = chance(seed);
    const copy = await mkdtemp(join(tmpdir(), 'isochron-flip-'));
    const file = join(copy, 'isochron.db');
    await copyFile(join(folder, 'isochron.db'), file);
    const { size } = await stat(file);
    const handle = await open(file, 'r+');
    for (let k = 0; k < bytes; k += 1) {
      const at = Math.floor(size * uniform());
      const { buffer } = await handle.read(Buffer.alloc(1), 0, 1, at);
      await handle.write(Buffer.of((buffer[0] as number) ^ (1 << Math.floor(8 * uniform()))), 0, 1, at);
    }
    await handle.close();
    const opened = await openStore(copy).catch((error: unknown) => error);
    if (opened instanceof StoreError) tallied(tally, 'start refused, with its copies named');
    else if (opened instanceof Error) tallied(tally, 'no sentence');
    else {
      const flipped = opened as Awaited<ReturnType<typeof openStore>>;
      hideDamaged(flipped, await checkRows(flipped));
      for (const [id, before] of stored) {
        const take = await getTake(flipped, id).catch(() => null);
        if (take && JSON.stringify(take) === before) tallied(tally, 'take whole');
        else {
          const whole = JSON.parse(before) as Take;
          const isPart =
            take === null ||
            (JSON.stringify({ ...take, repetitions: [] }) === JSON.stringify({ ...whole, repetitions: [] }) &&
              take.repetitions.every(
                (one) => JSON.stringify(one) === JSON.stringify(whole.repetitions.find(({ index }) => index === one.index)),
              ));
          tallied(
            tally,
            isPart && flipped.unreadable.sentences().length > 0 ? 'take left out, or less of it, and named' : 'silently wrong',
          );
        }
      }
      await flipped.close();
    }
    for (const name of await readdir(copy)) await rm(join(copy, name), { recursive: true });
    await rm(copy, { recursive: true });
  }
  await rm(folder, { recursive: true });
  const of = (name: string) => tally.get(name) ?? 0;
  console.log(
    `| ${bytes} | ${runs} | ${of('start refused, with its copies named')} | ${of('take whole')} | ${of('take left out, or less of it, and named')} | ${of('silently wrong') + of('no sentence')} |`,
  );
};

/** How much memory a server takes while bodies of 30 MB are sent to it at once, and what they are answered with. */
const bodies = async (count: number): Promise<void> => {
  const folder = await mkdtemp(join(tmpdir(), 'isochron-bodies-'));
  const server = await spawnServer(folder);
  const peakMb = () =>
    Math.round(Number(/VmHWM:\s+(\d+)/.exec(readFileSync(`/proc/${server.process.pid}/status`, 'utf8'))?.[1] ?? 0) / 1024);
  const before = peakMb();
  const body = JSON.stringify({ takeRevision: 1, padding: Array.from({ length: 30_000 }, (_, k) => `${k}`.padEnd(990, 'x')) });
  const answers = await Promise.all(
    Array.from({ length: count }, () =>
      fetch(`${server.api}/takes/${PRACTICE_SESSION.id}/repetitions/0`, {
        method: 'PUT',
        headers: { 'Content-Type': 'application/json' },
        body,
      }).then(
        ({ status }) => status,
        () => 0,
      ),
    ),
  );
  const read = answers.filter((status) => status === 400).length;
  const refused = answers.filter((status) => status === 503).length;
  const alive = (await fetch(`${server.api}/health`)).ok ? 'yes' : 'no';
  console.log(
    `\n| bodies of ${Math.round(body.length / 1e6)} MB at once | read | refused, to be sent again | closed | peak memory, MB (before) | goes on |\n|---|---|---|---|---|---|`,
  );
  console.log(`| ${count} | ${read} | ${refused} | ${count - read - refused} | ${peakMb()} (${before}) | ${alive} |`);
  await server.kill();
  await rm(folder, { recursive: true });
};

const wanted = (name: string) => values.only === undefined || values.only === name;
if (wanted('hostile') || wanted('mutated'))
  console.log('\n| restored | tried | refused, nothing touched | restored whole | anything else |\n|---|---|---|---|---|');
if (wanted('hostile')) await backups('hostile', some(200));
if (wanted('mutated')) await backups('mutated', some(500));
if (wanted('flips')) {
  console.log(
    '\n| bytes flipped | databases of 30 takes | start refused, copies named | takes whole | takes left out or in part, named | silently wrong |\n|---|---|---|---|---|---|',
  );
  for (const bytes of [1, 5, 40]) await flips(bytes, some(40));
}
if (wanted('kills')) await kills();
if (wanted('bodies')) await bodies(24);
