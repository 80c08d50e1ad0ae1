import { basename, extname } from 'node:path';
import { type ReadPassage, readPassageFile, UnreadableScore } from '@isochron/core/score';
import { readBytes } from './parse-call';
import { USAGE, UsageError } from './usage';

/** Letters and digits of a name, fit for an id. */
const idOf = (name: string): string =>
  basename(name, extname(name))
    .toLowerCase()
    .replace(/[^a-z0-9]+/g, '-')
    .replace(/^-+|-+$/g, '')
    .slice(0, 64) || 'passage';

/** A file's passage; what was simplified goes to standard error. */
export const readPassage = async (file: string | undefined): Promise<ReadPassage> => {
  if (!file) throw new UsageError(`Name a file.\n\n${USAGE}`, 2);
  try {
    const read = await readPassageFile(file, await readBytes(file), idOf(file));
    for (const sentence of read.simplified) console.error(`isochron: ${sentence}`);
    return read;
  } catch (error) {
    if (error instanceof UnreadableScore) throw new UsageError(`${file}: ${error.message}`, 1);
    throw error;
  }
};
