import { type Model, type ModelStatic, QueryTypes } from 'sequelize';
import type { Models } from '../database/models';
import type { Store } from '../database/open';
import { checksumOf, sealedColumns } from '../database/seal';
import type { RowKind } from '../database/unreadable';

type AnyModel = ModelStatic<Model>;
type StoredRow = Record<string, unknown> & { rowId: number; checksum: string };

/** What the rows of a table are to the player, and by what they are named. */
const KINDS: Record<keyof Models, { kind: RowKind; nameOf: (row: Record<string, unknown>) => string }> = {
  settings: { kind: 'settings', nameOf: ({ key }) => String(key) },
  passages: { kind: 'passage', nameOf: ({ title }) => String(title) },
  solutions: { kind: 'notebook entry', nameOf: ({ id }) => String(id) },
  courses: { kind: 'course', nameOf: ({ id }) => String(id) },
  sittings: { kind: 'sitting', nameOf: ({ id }) => String(id) },
  takes: { kind: 'take', nameOf: ({ title, startedAt }) => `${title}, ${startedAt}` },
  repetitions: { kind: 'repetition', nameOf: ({ takeId, index }) => `${Number(index) + 1} of ${takeId}` },
  recordings: { kind: 'recording', nameOf: ({ takeId }) => String(takeId) },
  accompaniments: { kind: 'accompaniment', nameOf: ({ title }) => String(title) },
  analyses: { kind: 'earlier analysis', nameOf: ({ takeId, engine }) => `${takeId}, engine ${engine}` },
};

/** Rows are read by so many, so that the player's own requests come in between. */
const ROWS_AT_ONCE = 200;

/** What was found when rows were compared with their checksums. */
export interface RowCheck {
  rows: number;
  /** Rows that are not as they were written. */
  damaged: { kind: RowKind; name: string }[];
  /** The takes that such rows belong to. */
  takeIds: string[];
}

/** Gives rows of before their first checksum, as they are now. */
const sealRows = (store: Store, model: AnyModel, rows: readonly StoredRow[]): Promise<void> =>
  store.write(async (transaction) => {
    const columns = sealedColumns(model);
    for (const row of rows) {
      const where = Object.fromEntries(model.primaryKeyAttributes.map((name) => [name, row[name]]));
      // Whoever wrote it meanwhile has sealed it.
      const checksum = checksumOf(columns, row);
      await model.update({ checksum }, { where: { ...where, checksum: '' }, transaction, hooks: false });
    }
  });

/**
 * Compares every row with its checksum, and gives one to those that have none yet. `onRows` is told how many were read, and may throw to
 * stop it.
 */
export const checkRows = async (store: Store, onRows: (rows: number) => void = () => {}): Promise<RowCheck> => {
  const found: RowCheck = { rows: 0, damaged: [], takeIds: [] };
  for (const [table, { kind, nameOf }] of Object.entries(KINDS) as [keyof Models, (typeof KINDS)[keyof Models]][]) {
    const model: AnyModel = store.models[table];
    const columns = sealedColumns(model);
    const selected = ['checksum', ...columns].map((name) => `"${name}"`).join();
    for (let after = 0; ; ) {
      const rows = await store.database.query<StoredRow>(
        `SELECT rowid AS rowId, ${selected} FROM ${table} WHERE rowid > ${after} ORDER BY rowid LIMIT ${ROWS_AT_ONCE}`,
        { type: QueryTypes.SELECT },
      );
      const fresh = rows.filter(({ checksum }) => checksum === '');
      if (fresh.length > 0 && !store.isReadOnly) await sealRows(store, model, fresh);
      for (const row of rows) {
        if (row.checksum === '' || row.checksum === checksumOf(columns, row)) continue;
        found.damaged.push({ kind, name: nameOf(row) });
        if (table === 'takes') found.takeIds.push(String(row.id));
        if (table === 'repetitions') found.takeIds.push(String(row.takeId));
      }
      found.rows += rows.length;
      onRows(rows.length);
      const last = rows.at(-1);
      if (!last || rows.length < ROWS_AT_ONCE) break;
      after = last.rowId;
    }
  }
  return found;
};

/** Leaves out what is not as it was written, and names it. */
export const hideDamaged = ({ unreadable }: Store, { damaged, takeIds }: RowCheck): void => {
  unreadable.setDamagedTakes(takeIds);
  for (const { kind, name } of damaged) unreadable.note(kind, name);
};
