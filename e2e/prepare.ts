import { mkdir, rm, writeFile } from 'node:fs/promises';
import { dirname } from 'node:path';
import { writeWav } from '@isochron/core/material';
import { spawnServer } from '../server/src/testing/spawn-server';
import { PLANTED_WAV, plantedTake, SAMPLE_RATE_HZ } from './fake-sound';
import { DEMO_DATA } from './test';

/** What all tests share, once: the sound that fake microphones hear, and the demo's data. */
export default async (): Promise<void> => {
  await mkdir(dirname(PLANTED_WAV), { recursive: true });
  await writeFile(PLANTED_WAV, writeWav(plantedTake().render(), SAMPLE_RATE_HZ));
  await rm(DEMO_DATA, { recursive: true, force: true });
  await mkdir(DEMO_DATA, { recursive: true });
  await (await spawnServer(DEMO_DATA, { env: { ISOCHRON_DEMO: '1' } })).stop();
};
