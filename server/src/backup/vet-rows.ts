import { IdSchema, NameIdSchema } from '@isochron/core/schema';
import { DataTypes, QueryTypes } from 'sequelize';
import type { z } from 'zod';
import type { Models } from '../database/models';
import type { Store } from '../database/open';
import { SOUND_FILE } from './manifest';

/** What SQLite may hold in a column of each kind. */
const STORED_AS: [kind: { key: string }, types: readonly string[]][] = [
  [DataTypes.INTEGER, ['integer']],
  [DataTypes.BOOLEAN, ['integer']],
  [DataTypes.DOUBLE, ['real', 'integer']],
];
const TEXT = ['text'];

/** The largest document that the server takes in one request. */
const LONGEST_TEXT = 64_000_000;

/** Columns whose values name something, and what such a name looks like. */
const NAMES: { table: keyof Models; column: string; is: (value: unknown) => boolean }[] = [
  ...(['takes.id', 'takes.sessionId', 'sessions.id', 'solutions.id', 'accompaniments.id', 'repetitions.takeId'] as const).map(
    (path) => nameColumn(path, IdSchema),
  ),
  ...(['recordings.takeId', 'analyses.takeId'] as const).map((path) => nameColumn(path, IdSchema)),
  ...(['passages.id', 'takes.passageId', 'takes.variantId', 'takes.sectionId', 'practiceConfigs.passageId'] as const).map(
    (path) => nameColumn(path, NameIdSchema),
  ),
  { table: 'recordings', column: 'file', is: (value) => SOUND_FILE.test(String(value)) },
  { table: 'accompaniments', column: 'file', is: (value) => SOUND_FILE.test(String(value)) },
];

function nameColumn(path: string, schema: z.ZodType) {
  const [table, column] = path.split('.') as [keyof Models, string];
  return { table, column, is: (value: unknown) => schema.safeParse(value).success };
}

/**
 * What is wrong with the rows of a database, in words for the log; null where nothing is: every value is of its column's kind, every
 * name is a name, every reference leads somewhere. A document that cannot be read is none of this: it hides itself, here as anywhere.
 */
export const wrongRow = async ({ database, models }: Store): Promise<string | null> => {
  const select = <Row extends object>(sql: string) => database.query<Row>(sql, { type: QueryTypes.SELECT });
  for (const [table, model] of Object.entries(models)) {
    const wrong = Object.entries<{ type: unknown }>(model.getAttributes()).flatMap(([column, { type }]) => {
      const allowed = STORED_AS.find(([kind]) => (type as { key?: string }).key === kind.key)?.[1] ?? TEXT;
      const types = [...allowed, 'null'].map((name) => `'${name}'`).join();
      return [`typeof("${column}") NOT IN (${types})`, `length("${column}") > ${LONGEST_TEXT}`];
    });
    const [found] = await select<{ rowid: number }>(`SELECT rowid FROM ${table} WHERE ${wrong.join(' OR ')} LIMIT 1`);
    if (found) return `a row of ${table} has values of the wrong kind`;
  }
  for (const { table, column, is } of NAMES) {
    for (const { name } of await select<{ name: unknown }>(`SELECT DISTINCT "${column}" AS name FROM ${table}`))
      if (!is(name)) return `${table}.${column} has “${String(name).slice(0, 80)}”`;
  }
  const lost = await select('PRAGMA foreign_key_check');
  return lost.length > 0 ? `${lost.length} rows refer to what is not there` : null;
};
