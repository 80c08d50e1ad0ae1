import { mkdir, writeFile } from 'node:fs/promises';
import { dirname } from 'node:path';
import { writeWav } from '@isochron/core/material';
import { makeDemoData } from '../server/src/testing/demo-data';
import { BROKEN_WAV, brokenTake, PLANTED_WAV, plantedTake, SAMPLE_RATE_HZ } from './fake-sound';

/** What all tests share, once: the sound that fake microphones hear, and the demo's data. */
export default async (): Promise<void> => {
  await mkdir(dirname(PLANTED_WAV), { recursive: true });
  await writeFile(PLANTED_WAV, writeWav(plantedTake().render(), SAMPLE_RATE_HZ));
  await writeFile(BROKEN_WAV, writeWav(brokenTake(), SAMPLE_RATE_HZ));
  await makeDemoData();
};
