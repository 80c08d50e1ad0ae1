import { cp, mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { BUILT_IN_PASSAGES } from '@isochron/core/material';
import { DAY_MS, now } from '@isochron/core/schema';
import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import { openStore, type Store } from '../database/open';
import { storeMissingPassages } from '../passages';
import { DEMO_DATA, makeDemoData } from '../testing/demo-data';
import { seedDemo } from './seed';

const TODAY = new Date('2026-05-10T09:00:00Z');
let folder: string;
let demo: Store;
const seed = (weeks: number) => seedDemo(demo, () => {}, TODAY, weeks);
const takes = () => demo.models.takes.findAll({ order: [['startedAt', 'ASC']], attributes: ['id', 'startedAt', 'summary'] });

beforeEach(async () => {
  folder = await mkdtemp(join(tmpdir(), 'isochron-demo-'));
  demo = await openStore(folder);
  await storeMissingPassages(demo, BUILT_IN_PASSAGES);
});
afterEach(async () => {
  await demo.close();
  await rm(folder, { recursive: true });
});

describe('the demo data', () => {
  it('is ten weeks of takes, some with sound, made once', async () => {
    await makeDemoData();
    await demo.close();
    await cp(DEMO_DATA, folder, { recursive: true });
    demo = await openStore(folder);
    const all = await takes();
    expect(all.length).toBeGreaterThan(60);
    expect(await demo.models.recordings.count()).toBeGreaterThan(2);
    const first = all[0]?.get('startedAt') as string;
    expect((now().getTime() - Date.parse(first)) / DAY_MS).toBeGreaterThan(65);
    await seedDemo(demo, () => {});
    expect((await takes()).map((take) => take.get())).toEqual(all.map((take) => take.get()));
  });

  it('begins anew where it was broken off, and is the same from the same seed', async () => {
    await seed(1);
    const whole = (await takes()).map((take) => take.get());
    await demo.database.query('DELETE FROM takes WHERE rowid % 2 = 0');
    expect(await demo.models.takes.count()).toBeLessThan(whole.length);
    await demo.write((transaction) => demo.models.settings.upsert({ key: 'demo', document: { done: false } }, { transaction }));
    await seed(1);
    expect((await takes()).map((take) => take.get())).toEqual(whole);
  });
});
