import { mkdtemp, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { PracticeSessionSchema, TakeSchema, withPresentNames } from '@isochron/core/schema';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { listPracticeConfigs } from '../practice-configs';
import { getPlayerSettings } from '../settings';
import { passageRepetitions } from '../take-lists';
import { getTake } from '../takes';
import { type FormerAnswers, formerAnswers, formerDatabase } from '../testing/former-database';
import { openStore, type Store } from './open';

let folder: string;
let store: Store;
let before: FormerAnswers;
/** The same by today's names. */
let now: FormerAnswers;

beforeAll(async () => {
  folder = await mkdtemp(join(tmpdir(), 'isochron-names-'));
  await writeFile(join(folder, 'isochron.db'), await formerDatabase(9));
  before = await formerAnswers(9);
  now = withPresentNames(before) as FormerAnswers;
  store = await openStore(folder);
});
afterAll(async () => {
  await store.close();
  await rm(folder, { recursive: true });
});

describe('a database from before things were renamed', () => {
  it('has every take as it was, note for note', async () => {
    expect(JSON.stringify(before.takes)).toMatch(/"closing":.*"way":"sweep".*"demand":/s);
    expect(Object.keys(now.takes)).toHaveLength(4);
    for (const [id, take] of Object.entries(now.takes)) {
      const read = await getTake(store, id);
      expect(read).toEqual(TakeSchema.parse(take));
      expect(read?.summary === null || read?.summary.closingBpm).toBeTruthy();
    }
  });

  it('has its configurations, settings and practice sessions', async () => {
    expect(await listPracticeConfigs(store)).toEqual(now.configs);
    expect(now.configs).toContainEqual(expect.objectContaining({ minRepetitions: 3, playAlong: expect.anything() }));
    expect(await getPlayerSettings(store)).toMatchObject({ ...now.settings });
    expect(await getPlayerSettings(store)).toMatchObject({
      strategyOptions: { 'half-speed-climb': { stepBpm: 10 } },
      playAlongLevel: 0.3,
    });
    const row = await store.models.sessions.findByPk(now.session.id);
    const session = PracticeSessionSchema.parse(row?.get('document'));
    expect(session).toEqual(PracticeSessionSchema.parse(now.session));
    expect(session.blocks[2]?.snapshot).toMatchObject({ repetitions: 1 });
  });

  it('counts the same repetitions, sweeps by themselves', async () => {
    const repetitions = await passageRepetitions(store, 'five-steps');
    expect(repetitions.filter(({ repetitionKind }) => repetitionKind === 'sweep').length).toBeGreaterThan(0);
    expect(repetitions.every(({ toleranceUsage }) => toleranceUsage === null || toleranceUsage > 0)).toBe(true);
    // The take by a method of its own is not among them.
    expect(new Set(repetitions.map(({ takeId }) => takeId)).size).toBe(2);
  });
});

describe('names of before', () => {
  it('are read as those of today at any depth; what a player named himself stays', () => {
    expect(
      withPresentNames({ course: { schools: { free: { state: { demand: 1 } } } }, title: 'school', list: [{ sure: 0.5 }] }),
    ).toEqual({
      config: { strategies: { free: { state: { toleranceUsage: 1 } } } },
      title: 'school',
      list: [{ confidence: 0.5 }],
    });
  });

  it('tell the practice mode from the recording that is played along with', () => {
    const recording = { accompanimentId: 'a', fromBeat: 0 };
    expect(withPresentNames({ along: recording, others: { along: { states: {} } } })).toEqual({
      playAlong: recording,
      others: { along: { states: {} } },
    });
  });

  it('change nothing of a document of today', () => {
    const today = { config: { minRepetitions: 2, playAlong: null }, strategyId: 'free', summary: null };
    expect(withPresentNames(today)).toEqual(today);
  });
});
