import type { Onset } from '@isochron/core/schema';
import {
  type DetectorOptions,
  detectOnsets,
  detectOnsetsBesideClicks,
  FAMILIES,
  type Family,
  readWav,
  UnreadableWav,
} from '@isochron/core/signal';
import { readBytes } from './parse-call';
import { isFlac, readFlac } from './read-flac';
import { UsageError } from './usage';

/** Click times in seconds from a text file, one a line; empty lines are skipped. */
const readClicks = async (file: string): Promise<number[]> => {
  const lines = (await readBytes(file)).toString('utf8').split(/\r?\n/);
  return lines.flatMap((line, k) => {
    if (line.trim() === '') return [];
    const timeS = Number(line.trim());
    if (!Number.isFinite(timeS)) throw new UsageError(`Line ${k + 1} of ${file} is not a time in seconds: ${line.trim()}`, 1);
    return [timeS];
  });
};

/** A family of instruments by its name on the command line; null where none is named. */
export const familyOf = (name: string | undefined): Family | null => {
  if (name === undefined) return null;
  const family = FAMILIES.find((one) => one === name);
  if (!family) throw new UsageError(`--instrument must be one of ${FAMILIES.join(', ')}; it is ${name}.`, 2);
  return family;
};

const CLICKS_REMAIN =
  'isochron: The clicks could not be taken out for certain, so some may be among the notes. Record with a count-in, or use headphones.';

/** The onsets of a file of sound, without those of the clicks; remarks go to standard error. */
export const readOnsets = async (
  file: string,
  clicksFile: string | undefined,
  options: DetectorOptions,
  firstNoteS?: number,
): Promise<Onset[]> => {
  const bytes = await readBytes(file);
  try {
    const { samples, sampleRateHz, notes } = isFlac(bytes) ? await readFlac(bytes) : readWav(bytes);
    for (const note of notes) console.error(`isochron: ${note}`);
    if (!clicksFile) return detectOnsets(samples, sampleRateHz, options);
    const found = detectOnsetsBesideClicks(samples, sampleRateHz, await readClicks(clicksFile), firstNoteS, options);
    if (found.clicksRemain) console.error(CLICKS_REMAIN);
    return found.onsets;
  } catch (error) {
    if (error instanceof UnreadableWav) throw new UsageError(`${file}: ${error.message}`, 1);
    throw error;
  }
};
