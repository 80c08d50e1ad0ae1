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

/**
 * A file's passage; what was simplified goes to standard error.
 *
 * @param part the name or the id of what is taken of a file of several parts; its first where nothing is said
 */
export const readPassage = async (file: string | undefined, part?: string): Promise<ReadPassage> => {
  if (!file) throw new UsageError(`Name a file.\n\n${USAGE}`, 2);
  try {
    const bytes = await readBytes(file);
    const readPart = (partId?: string) => readPassageFile(file, bytes, idOf(file), partId);
    let read = await readPart();
    if (part !== undefined) {
      const found = read.parts.find(({ id, name }) => id === part || name === part);
      const known = read.parts.map(({ name }) => `“${name}”`).join(', ') || 'nothing to choose from';
      if (!found) throw new UsageError(`${file}: there is no part “${part}”. It has ${known}.`, 2);
      read = await readPart(found.id);
    }
    for (const sentence of read.simplified) console.error(`isochron: ${sentence}`);
    return read;
  } catch (error) {
    if (error instanceof UnreadableScore) throw new UsageError(`${file}: ${error.message}`, 1);
    throw error;
  }
};
