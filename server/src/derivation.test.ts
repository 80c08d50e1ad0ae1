import { randomUUID } from 'node:crypto';
import { mkdtemp, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { chance, editRepetition, onsetsOfRepetition, undoEdit } from '@isochron/core/analysis';
import { BUILT_IN_PASSAGES } from '@isochron/core/material';
import { newPracticeConfig } from '@isochron/core/planning';
import {
  DEFAULT_SETTINGS,
  practiceConfigId,
  practiceConfigKey,
  type Repetition,
  STEADY,
  type Take,
  withPresentNames,
} from '@isochron/core/schema';
import { deriveTake, figuresOf, mergeTake } from '@isochron/core/strategy';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { connect } from './database/connection';
import { openStore, type Store } from './database/open';
import { practise } from './demo/practice';
import { storeMissingPassages } from './passages';
import { listPracticeConfigs } from './practice-configs';
import { putPracticeSession } from './practice-sessions';
import { getTake, putRepetition, putTake, replaceAnalysis } from './takes';
import { formerAnswers, formerDatabase } from './testing/former-database';
import { PRACTICE_SESSION } from './testing/made-takes';

let store: Store;
let folder = '';

beforeAll(async () => {
  folder = await mkdtemp(join(tmpdir(), 'isochron-derived-'));
  store = await openStore(folder);
  await storeMissingPassages(store, BUILT_IN_PASSAGES);
  await putPracticeSession(store, PRACTICE_SESSION);
});
afterAll(async () => {
  await store.close();
  await rm(folder, { recursive: true });
});

const STRATEGIES = [
  'half-speed-climb',
  'notch-by-notch',
  'staircase',
  'from-both-sides',
  'edge-and-stamina',
  'below-the-break',
  'free',
];

/** A thousand by `ISOCHRON_TAKES=1000 npx vitest run derivation`; fewer keep `npm test` short. */
const TAKES = Number(process.env.ISOCHRON_TAKES ?? 100);

/** A take of a player by chance: steady or not, who leaves notes out or adds some, of any passage, under any strategy. */
const randomTake = (seed: number): Take => {
  const { uniform } = chance(seed);
  const passage = BUILT_IN_PASSAGES[seed % BUILT_IN_PASSAGES.length] as (typeof BUILT_IN_PASSAGES)[number];
  const config = {
    ...newPracticeConfig(passage, DEFAULT_SETTINGS),
    strategyId: STRATEGIES[seed % STRATEGIES.length] as string,
  };
  return practise({
    takeId: randomUUID(),
    sessionId: PRACTICE_SESSION.id,
    startedAt: new Date(Date.UTC(2026, 0, 1) + seed * 3_600_000),
    passage,
    config,
    startBpm: 40 + Math.round(60 * uniform()),
    skill: { ...STEADY, spreadMs: 3 + 25 * uniform(), missedShare: 0.03 * uniform(), extraShare: 0.03 * uniform() },
    seed,
    patience: 1 + (seed % 5),
    withSound: false,
  }).take;
};

/** A repetition as someone corrects it: a note added, taken away, or the last of it undone. */
const corrected = (take: Take, repetition: Repetition, uniform: () => number): Repetition => {
  const onsets = onsetsOfRepetition(repetition);
  const onset = onsets[Math.floor(uniform() * onsets.length)];
  if (uniform() < 0.2 || !onset) return undoEdit(take, repetition);
  if (uniform() < 0.6) return editRepetition(take, repetition, { kind: 'remove', onset });
  return editRepetition(take, repetition, { kind: 'add', onset: { timeS: onset.timeS + 0.15 * uniform(), levelDb: -20 } });
};

const pick = <Value>(list: readonly Value[], uniform: () => number): Value =>
  list[Math.floor(uniform() * list.length)] as Value;

/** What is done to a stored take, by name. */
const WRITERS: Record<string, (take: Take, uniform: () => number) => Promise<unknown>> = {
  correction: (take, uniform) =>
    putRepetition(store, take.id, {
      takeRevision: take.revision,
      repetition: corrected(take, pick(take.repetitions, uniform), uniform),
    }),
  merge: (take, uniform) => {
    const [last] = take.repetitions.slice(-1) as [Repetition];
    const mine = {
      ...take,
      revision: 1,
      repetitions: take.repetitions.map((one) => (one === last ? { ...one, ease: 'tense' as const } : one)),
    };
    const stored = { ...take, repetitions: take.repetitions.map((one) => corrected(take, one, uniform)) };
    return putTake(store, mergeTake(stored, mine));
  },
  analysis: (take, uniform) =>
    replaceAnalysis(store, take, { ...take, repetitions: take.repetitions.map((one) => corrected(take, one, uniform)) }),
};

/** The row as it is stored, and how its configuration says that it closed. */
const storedOf = async (take: Take) => {
  const row = (await store.models.takes.findByPk(take.id))?.get({ plain: true });
  const id = practiceConfigId(practiceConfigKey(take));
  const config = (await listPracticeConfigs(store)).find((one) => practiceConfigId(one) === id);
  return { row, last: config?.last?.takeId === take.id ? config.last.summary : undefined };
};

describe('what is stored of a take', () => {
  it('follows from what was measured, whoever wrote it: takes corrected, merged and measured again', async () => {
    let changed = 0;
    for (let seed = 1; seed <= TAKES; seed += 1) {
      const { uniform } = chance(seed + 5000);
      const played = randomTake(seed);
      await putTake(store, played);
      expect(await getTake(store, played.id)).toEqual({ ...played, revision: 1 });
      for (let step = 0; step < 2; step += 1) {
        const before = (await getTake(store, played.id)) as Take;
        await (pick(Object.values(WRITERS), uniform) as (typeof WRITERS)[string])(before, uniform);
      }
      const take = (await getTake(store, played.id)) as Take;
      const fresh = deriveTake(take);
      expect(take).toEqual(fresh);
      const { row, last } = await storedOf(take);
      expect(row).toMatchObject({ ...figuresOf(fresh), summary: fresh.summary });
      if (fresh.summary) expect(last).toEqual(fresh.summary);
      if (take.summary?.bestCleanBpm !== played.summary?.bestCleanBpm) changed += 1;
    }
    expect(changed).toBeGreaterThan(TAKES / 10);
  });

  it('does not believe a verdict that a browser sends', async () => {
    const played = randomTake(2003);
    const clean = { outcome: 'clean', reason: 'none', why: { code: 'none', values: {} } } as const;
    const told = (one: Repetition): Repetition => ({ ...one, measures: { ...one.measures, missed: 3 }, verdict: clean });
    await putTake(store, { ...played, repetitions: played.repetitions.map(told) });
    expect(await getTake(store, played.id)).toMatchObject({ summary: { bestCleanBpm: null } });
    const stored = (await getTake(store, played.id)) as Take;
    await putRepetition(store, stored.id, { takeRevision: 1, repetition: told(stored.repetitions[0] as Repetition) });
    const after = (await getTake(store, played.id)) as Take;
    expect(after.repetitions[0]?.verdict.outcome).not.toBe('clean');
    expect(after.summary).toEqual(stored.summary);
  });

  it('leaves the goal that was changed since the take was counted', async () => {
    const played = randomTake(2004);
    await putTake(store, played);
    const config = (await listPracticeConfigs(store)).find((one) => one.last?.takeId === played.id);
    await store.write(async (transaction) => {
      const document = { ...config, goalBpm: 141 };
      await store.models.practiceConfigs.update({ document } as never, {
        where: { id: practiceConfigId(practiceConfigKey(played)) },
        transaction,
      });
    });
    await putTake(store, { ...played, revision: 1 });
    expect((await listPracticeConfigs(store)).find((one) => one.last?.takeId === played.id)?.goalBpm).toBe(141);
  });

  it('is put right once where corrections of before left it wrong', async () => {
    const older = await mkdtemp(join(tmpdir(), 'isochron-corrected-'));
    await writeFile(join(older, 'isochron.db'), await formerDatabase(9));
    const { takes } = await formerAnswers(9);
    const [right] = Object.values(withPresentNames(takes) as Record<string, Take>);
    if (!right?.summary) throw new Error('The first take of the fixture closed with something.');
    // As it was left: a repetition corrected, and the summary that of before.
    const wrong = JSON.stringify({ ...right.summary, bestCleanBpm: 123, nextStartBpm: 111 });
    const before = connect(join(older, 'isochron.db'));
    const run = (sql: string) => before.query(sql, { replacements: { wrong, id: right.id } });
    await run(`UPDATE takes SET closing = :wrong, checksum = '' WHERE id = :id`);
    await run(`UPDATE repetitions SET edits = '[]', checksum = '' WHERE takeId = :id AND "index" = 0`);
    await run(
      `UPDATE courses SET document = json_set(document, '$.last.takeId', :id, '$.last.closing', json(:wrong)), checksum = ''`,
    );
    await run(`DELETE FROM SequelizeMeta WHERE name = '0009-corrections'`);
    await before.close();
    const after = await openStore(older);
    expect((await getTake(after, right.id))?.summary).toEqual(right.summary);
    const lasts = (await listPracticeConfigs(after)).flatMap(({ last }) => last ?? []);
    expect(lasts.length).toBeGreaterThan(0);
    for (const { takeId, summary } of lasts) expect({ takeId, summary }).toEqual({ takeId: right.id, summary: right.summary });
    await after.close();
    await rm(older, { recursive: true });
  });
});
