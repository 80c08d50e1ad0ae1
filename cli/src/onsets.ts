import { parseCall } from './parse-call';
import { familyOf, readOnsets } from './read-input';
import { USAGE, UsageError } from './usage';

const OPTIONS = { clicks: { type: 'string' }, instrument: { type: 'string' } } as const;

/** `isochron onsets`: one onset time in seconds a line. */
export const onsets = async (args: string[]): Promise<string> => {
  const { values, positionals } = parseCall(args, OPTIONS);
  const [file] = positionals;
  if (!file) throw new UsageError(`Name a WAV file.\n\n${USAGE}`, 2);
  const found = await readOnsets(file, values.clicks, { family: familyOf(values.instrument) });
  return found.map((onset) => `${onset.timeS.toFixed(6)}\n`).join('');
};
