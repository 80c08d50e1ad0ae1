import { QueryTypes, type Sequelize } from 'sequelize';
import { connect } from '../database/connection';
import { MIGRATION_NAMES, makeTables } from '../database/migrate';

interface SchemaRow {
  type: string;
  name: string;
  table: string;
  sql: string | null;
}

const schemaOf = async (database: Sequelize): Promise<string[]> => {
  const rows = await database.query<SchemaRow>(
    "SELECT type, name, tbl_name AS \"table\", sql FROM sqlite_schema WHERE name NOT LIKE 'sqlite\\_%' ESCAPE '\\'",
    { type: QueryTypes.SELECT },
  );
  // How a name is quoted and where a line breaks differs between versions of SQLite, and means nothing.
  const plain = (sql: string | null) => (sql ?? '').replaceAll(/[\s"'`[\]]/g, '').toLowerCase();
  return rows.map(({ type, name, table, sql }) => `${type} ${name} ${table} ${plain(sql)}`).sort();
};

/** What SQLite keeps for itself in a database of ours. */
const OF_SQLITE = new Set(['sqlite_sequence', 'sqlite_stat1', 'sqlite_stat4']);

/**
 * Whether the tables and indexes of a database are those of one of our versions, and there is nothing else: no view, no trigger, no
 * computed column of another's making, so that reading it does nothing but read. Only its list of tables is looked at.
 */
export const whoseSchema = async (database: Sequelize): Promise<'ours' | 'newer' | 'not ours'> => {
  await database.query('PRAGMA trusted_schema = OFF');
  const own = await database.query<{ name: string; type: string }>(
    "SELECT name, type FROM sqlite_schema WHERE name LIKE 'sqlite\\_%' ESCAPE '\\' AND type <> 'index'",
    { type: QueryTypes.SELECT },
  );
  if (own.some(({ name, type }) => type !== 'table' || !OF_SQLITE.has(name))) return 'not ours';
  const found = await schemaOf(database);
  if (!found.some((line) => line.startsWith('table SequelizeMeta '))) return 'not ours';
  const ran = await database.query<{ name: string }>('SELECT name FROM SequelizeMeta ORDER BY name', {
    type: QueryTypes.SELECT,
  });
  const names = ran.map(({ name }) => name);
  if (names.some((name) => !MIGRATION_NAMES.includes(name))) return 'newer';
  const last = names.at(-1);
  // They run in their order, without a gap.
  if (last === undefined || MIGRATION_NAMES.slice(0, names.length).join() !== names.join()) return 'not ours';
  const reference = connect(':memory:');
  try {
    await makeTables(reference, last);
    return (await schemaOf(reference)).join('\n') === found.join('\n') ? 'ours' : 'not ours';
  } finally {
    await reference.close();
  }
};
