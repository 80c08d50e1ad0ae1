import { parseArgs } from 'node:util';
import { familyOf, readOnsets } from './read-input';
import { Trouble, USAGE } from './usage';

/** `isochron onsets`: one onset time in seconds a line. */
export const onsets = async (args: string[]): Promise<string> => {
  const { values, positionals } = parsed(args);
  const [file] = positionals;
  if (!file) throw new Trouble(`Name a WAV file.\n\n${USAGE}`, 2);
  const found = await readOnsets(file, values.clicks, { family: familyOf(values.instrument) });
  return found.map((onset) => `${onset.timeS.toFixed(6)}\n`).join('');
};

const parsed = (args: string[]) => {
  try {
    return parseArgs({ args, allowPositionals: true, options: { clicks: { type: 'string' }, instrument: { type: 'string' } } });
  } catch (error) {
    throw new Trouble(`${(error as Error).message}\n\n${USAGE}`, 2);
  }
};
