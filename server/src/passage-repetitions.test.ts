import { newPracticeConfig } from '@isochron/core/planning';
import { API, DEFAULT_SETTINGS, type PassageRepetitions } from '@isochron/core/schema';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { practise } from './demo/practice';
import { putPracticeSession } from './practice-sessions';
import { putTake } from './takes';
import { PASSAGE, PRACTICE_SESSION } from './testing/made-takes';
import { type OpenServer, openServer } from './testing/open-server';

let running: OpenServer;
const idOf = (k: number) => `6ec0bd7f-11c0-43da-975e-2a8ad9ebae${10 + k}`;

/** An evening of a strategy, stored; later ones on later days. */
const evening = async (k: number, strategyId: string, patience = 12) => {
  const { take } = practise({
    takeId: idOf(k),
    sessionId: PRACTICE_SESSION.id,
    startedAt: new Date(Date.parse(PRACTICE_SESSION.startedAt) + k * 86_400_000),
    passage: PASSAGE,
    config: newPracticeConfig(PASSAGE, { ...DEFAULT_SETTINGS, strategyId }),
    startBpm: 60,
    skill: { ...DEFAULT_SETTINGS.skill, spreadMs: 3, easyUpToBpm: 85 },
    seed: 11 + k,
    patience,
    withSound: false,
  });
  await putTake(running.store, take);
  return take;
};

const repetitions = async (): Promise<PassageRepetitions> =>
  API.passageRepetitions.parse(await (await fetch(`${running.api}/passages/${PASSAGE.id}/repetitions`)).json());

beforeAll(async () => {
  running = await openServer();
  await putPracticeSession(running.store, PRACTICE_SESSION);
});
afterAll(() => running.close());

describe('what the tempo curve is made of', () => {
  it('is every straight repetition in order of time, with the tempo that was asked for', async () => {
    const take = await evening(0, 'half-speed-climb');
    const told = await repetitions();
    expect(told).toHaveLength(take.repetitions.length);
    told.forEach((one, k) => {
      const repetition = take.repetitions[k];
      expect(one).toMatchObject({
        takeId: take.id,
        repetitionKind: null,
        breakBpm: null,
        startBpm: 60,
        outcome: repetition?.verdict.outcome,
        toleranceUsage: repetition?.measures.toleranceUsage ?? null,
        notes: repetition?.notes.length,
      });
    });
  });

  it('has the bursts of a strategy that asks for them, at their own tempo', async () => {
    const take = await evening(1, 'from-both-sides', 14);
    const own = (await repetitions()).filter(({ takeId }) => takeId === take.id);
    const bursts = own.filter(({ repetitionKind }) => repetitionKind === 'burst');
    expect(bursts.length).toBeGreaterThan(0);
    expect(own.length).toBe(take.repetitions.length);
    // The player lets go at nearly the goal's tempo, whatever was climbed to until then.
    for (const { bpm } of bursts) expect(bpm).toBeGreaterThan(0.9 * PASSAGE.goalBpm);
    for (const { bpm } of own.filter(({ repetitionKind }) => repetitionKind === null))
      expect(bpm).toBeLessThan(0.95 * PASSAGE.goalBpm);
  });

  it('has the sweeps, and where they broke', async () => {
    const take = await evening(2, 'below-the-break', 6);
    const sweeps = (await repetitions()).filter(
      ({ takeId, repetitionKind }) => takeId === take.id && repetitionKind === 'sweep',
    );
    expect(sweeps.length).toBeGreaterThan(0);
    const broke = sweeps.filter(({ breakBpm }) => breakBpm !== null);
    for (const { breakBpm, breakLow, breakHigh } of broke) {
      expect(breakLow ?? 0).toBeLessThanOrEqual(breakBpm ?? 0);
      expect(breakHigh ?? 0).toBeGreaterThanOrEqual(breakBpm ?? 0);
    }
    const stored = take.repetitions.filter(({ measures }) => measures.breakBpm).map(({ measures }) => measures.breakBpm?.value);
    expect(broke.map(({ breakBpm }) => breakBpm)).toEqual(stored);
  });

  it('leaves out what was practised in another way, and is empty for a passage that nobody played', async () => {
    const before = (await repetitions()).length;
    const { take } = practise({
      takeId: idOf(5),
      sessionId: PRACTICE_SESSION.id,
      startedAt: new Date(Date.parse(PRACTICE_SESSION.startedAt) + 9 * 86_400_000),
      passage: PASSAGE,
      config: { ...newPracticeConfig(PASSAGE, DEFAULT_SETTINGS), methodId: 'repeat-each' },
      startBpm: 60,
      skill: DEFAULT_SETTINGS.skill,
      seed: 3,
      patience: 3,
      withSound: false,
    });
    await putTake(running.store, take);
    expect(await repetitions()).toHaveLength(before);
    const other = await fetch(`${running.api}/passages/hands-together/repetitions`);
    expect(await other.json()).toEqual([]);
  });

  it('hides only the repetition that cannot be read', async () => {
    const before = await repetitions();
    await running.store.database.query(
      `UPDATE repetitions SET outcome = 'splendid' WHERE takeId = '${idOf(0)}' AND "index" = 1`,
    );
    const after = await repetitions();
    expect(after).toHaveLength(before.length - 1);
    await running.store.database.query(`UPDATE repetitions SET notes = '[' WHERE takeId = '${idOf(0)}' AND "index" = 2`);
    expect(await repetitions()).toHaveLength(before.length - 2);
  });
});
