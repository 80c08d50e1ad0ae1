import { mkdir, writeFile } from 'node:fs/promises';
import { dirname } from 'node:path';
import { writeWav } from '@isochron/core';
import { PLANTED_WAV, plantedTake, SAMPLE_RATE_HZ, SILENT_WAV } from './fake-sound';

/** Writes the sounds that the fake microphones hear, before any browser starts. */
export default async (): Promise<void> => {
  await mkdir(dirname(PLANTED_WAV), { recursive: true });
  await writeFile(PLANTED_WAV, writeWav(plantedTake().render(), SAMPLE_RATE_HZ));
  await writeFile(SILENT_WAV, writeWav(new Float32Array(40 * SAMPLE_RATE_HZ), SAMPLE_RATE_HZ));
};
