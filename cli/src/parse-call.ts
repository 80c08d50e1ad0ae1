import { readFile } from 'node:fs/promises';
import { type ParseArgsConfig, parseArgs } from 'node:util';
import { USAGE, UsageError } from './usage';

/** The options and names of a call; throws Trouble where there is an option that the command does not have. */
export const parseCall = <Options extends NonNullable<ParseArgsConfig['options']>>(args: string[], options: Options) => {
  try {
    return parseArgs({ args, allowPositionals: true, options });
  } catch (error) {
    throw new UsageError(`${(error as Error).message}\n\n${USAGE}`, 2);
  }
};

/** A file's bytes; throws Trouble where it cannot be opened. */
export const readBytes = async (file: string): Promise<Buffer> => {
  try {
    return await readFile(file);
  } catch {
    throw new UsageError(`The file ${file} cannot be opened. Check its name and place.`, 1);
  }
};
