import { readFile } from 'node:fs/promises';
import { join } from 'node:path';
import { gunzipSync } from 'node:zlib';

/** What the server of a version answered of its database, by its own names. */
export interface FormerAnswers {
  takes: Record<string, object>;
  configs: object[];
  settings: object;
  session: { id: string };
}

const fixture = async (name: string): Promise<Buffer> =>
  gunzipSync(await readFile(join(import.meta.dirname, '../database/fixtures', `${name}.gz`)));

/** The database that a version left, as its own code wrote it. */
export const formerDatabase = (version: 9): Promise<Buffer> => fixture(`version-${version}.db`);

/** What that code answered of it. */
export const formerAnswers = async (version: 9): Promise<FormerAnswers> =>
  JSON.parse((await fixture(`version-${version}.json`)).toString());
