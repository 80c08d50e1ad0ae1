import { createHash } from 'node:crypto';
import { existsSync } from 'node:fs';
import { mkdir, readFile, rm, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { bundled } from '../../../scripts/bundle.mjs';
import { spawnServer } from './spawn-server';

const RESULTS = join(import.meta.dirname, '../../../test-results');

/** Where the demo's data lie for all tests: to be copied, not written to. */
export const DEMO_DATA = join(RESULTS, 'demo-data');
/** What they were made by; absent where they are not whole. */
const MADE_BY = join(RESULTS, 'demo-data.made-by');

/** What the data follow from: the program, and the day that it takes for today. */
const maker = async (): Promise<string> => {
  const program = await readFile(bundled('server', 'main'));
  const { ISOCHRON_NOW = '', TZ = '' } = process.env;
  return createHash('sha256').update(program).update(`${ISOCHRON_NOW} ${TZ}`).digest('hex');
};

/** Makes the demo's data by a first start of the server, where this server has not made them yet today. */
export const makeDemoData = async (): Promise<void> => {
  const by = await maker();
  if (existsSync(MADE_BY) && (await readFile(MADE_BY, 'utf8')) === by) return;
  await rm(MADE_BY, { force: true });
  await rm(DEMO_DATA, { recursive: true, force: true });
  await mkdir(DEMO_DATA, { recursive: true });
  await (await spawnServer(DEMO_DATA, { env: { ISOCHRON_DEMO: '1' } })).stop();
  await writeFile(MADE_BY, by);
};
