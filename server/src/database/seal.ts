import { createHash } from 'node:crypto';
import { literal, type Model, type ModelStatic, Op, type Sequelize, type Transaction, type WhereOptions } from 'sequelize';

type AnyModel = ModelStatic<Model>;

/** Enough of a checksum to tell damage from what was written: one changed row in 2^64 passes. */
const DIGITS = 16;
/** SQLite takes no condition of more parts than a thousand. */
const ROWS_AT_ONCE = 200;

/** A value as SQLite hands it on, whatever the library makes of it. */
const asStored = (value: unknown): unknown => (typeof value === 'boolean' ? Number(value) : (value ?? null));

/** The columns of a table that its checksum covers, in their order: all but itself. */
export const sealedColumns = (model: AnyModel): string[] =>
  Object.keys(model.getAttributes())
    .filter((name) => name !== 'checksum')
    .sort();

/** The checksum of a row, by the values of its columns. */
export const checksumOf = (columns: readonly string[], row: Readonly<Record<string, unknown>>): string =>
  createHash('sha256')
    .update(JSON.stringify(columns.map((name) => asStored(row[name]))))
    .digest('hex')
    .slice(0, DIGITS);

/** Whether a row that was read whole is as it was written; one from before rows had checksums is taken as it is. */
export const isIntact = (row: Model): boolean => {
  const values = row.dataValues as Record<string, unknown>;
  if (!values.checksum) return true;
  return values.checksum === checksumOf(sealedColumns(row.constructor as AnyModel), values);
};

/** The rows that a transaction wrote, by table. */
const touchedBy = new WeakMap<Transaction, Map<AnyModel, WhereOptions[]>>();

const note = (model: AnyModel, where: WhereOptions, transaction: Transaction | null | undefined): void => {
  if (!transaction) throw new Error(`${model.name} was written outside of the store's write().`);
  const touched = touchedBy.get(transaction) ?? new Map<AnyModel, WhereOptions[]>();
  touchedBy.set(transaction, touched);
  const rows = touched.get(model) ?? [];
  touched.set(model, rows);
  rows.push(where);
};

const keyOf = (row: Model): WhereOptions => {
  const { primaryKeyAttributes } = row.constructor as AnyModel;
  return Object.fromEntries(primaryKeyAttributes.map((name) => [name, row.getDataValue(name)]));
};

/** Has the database remember what a transaction writes, whoever writes it, so that no writer can forget a checksum. */
export const watchWrites = (database: Sequelize): void => {
  const noteRow = (row: Model, { transaction }: { transaction?: Transaction | null }) =>
    note(row.constructor as AnyModel, keyOf(row), transaction);
  database.addHook('afterUpsert', ([row], options) => noteRow(row, options));
  database.addHook('afterCreate', noteRow);
  database.addHook('afterBulkCreate', (rows, options) => {
    for (const row of rows) noteRow(row, options);
  });
  database.addHook('afterBulkUpdate', ({ model, where, transaction }: BulkUpdate) => note(model, where, transaction));
};

/** What the library hands to its hook; its own types leave the model out. */
interface BulkUpdate {
  model: AnyModel;
  where: WhereOptions;
  transaction?: Transaction | null;
}

/** Writes the checksums of what a transaction wrote: for so many rows at once by one question and one answer. */
export const sealTouched = async (transaction: Transaction): Promise<void> => {
  for (const [model, wheres] of touchedBy.get(transaction) ?? []) {
    const columns = sealedColumns(model);
    for (let from = 0; from < wheres.length; from += ROWS_AT_ONCE) {
      const rows = (await model.findAll({
        where: { [Op.or]: wheres.slice(from, from + ROWS_AT_ONCE) },
        attributes: [[literal('rowid'), 'rowId'], 'checksum', ...columns],
        transaction,
        raw: true,
      })) as unknown as (Record<string, unknown> & { rowId: number })[];
      const fresh = rows.map((row) => ({ rowId: row.rowId, before: row.checksum, checksum: checksumOf(columns, row) }));
      const changed = fresh.filter(({ before, checksum }) => before !== checksum);
      if (changed.length === 0) continue;
      const values = changed.map(({ rowId, checksum }) => `(${Number(rowId)}, '${checksum}')`).join();
      await model.sequelize?.query(
        `WITH fresh (id, sum) AS (VALUES ${values})
         UPDATE ${model.tableName} SET checksum = fresh.sum FROM fresh WHERE ${model.tableName}.rowid = fresh.id`,
        { transaction, raw: true },
      );
    }
  }
};
