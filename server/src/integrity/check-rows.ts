import { setTimeout } from 'node:timers/promises';
import { type Model, type ModelStatic, QueryTypes } from 'sequelize';
import type { Models } from '../database/models';
import type { Store } from '../database/open';
import { checksumOf, sealedColumns } from '../database/seal';
import { type RowKind, takeName } from '../database/unreadable';

type AnyModel = ModelStatic<Model>;
type StoredRow = Record<string, unknown> & { rowId: number; checksum: string };

/** What a row is to the player, by what it is named, and what tells it apart from others of that name. */
interface Kind {
  kind: RowKind;
  nameOf(row: Record<string, unknown>): string;
  keyOf?(row: Record<string, unknown>): string;
}

/** Every table. */
const KINDS: Record<keyof Models, Kind> = {
  settings: { kind: 'settings', nameOf: ({ key }) => String(key) },
  passages: { kind: 'passage', nameOf: ({ title }) => String(title) },
  solutions: { kind: 'notebook entry', nameOf: ({ id }) => String(id) },
  practiceConfigs: { kind: 'config', nameOf: ({ id }) => String(id) },
  sessions: { kind: 'session', nameOf: ({ id }) => String(id) },
  takes: {
    kind: 'take',
    nameOf: ({ title, startedAt }) => takeName(String(title), String(startedAt)),
    keyOf: ({ id }) => String(id),
  },
  repetitions: {
    kind: 'repetition',
    nameOf: ({ takeId, index }) => `${Number(index) + 1} of ${takeId}`,
    keyOf: ({ takeId, index }) => `${takeId}/${index}`,
  },
  recordings: { kind: 'recording', nameOf: ({ takeId }) => String(takeId) },
  accompaniments: { kind: 'accompaniment', nameOf: ({ title }) => String(title) },
  analyses: { kind: 'earlier analysis', nameOf: ({ takeId, engine }) => `${takeId}, engine ${engine}` },
};

/** As whoever reads its take names it. */
const repetitionName = async ({ models }: Store, { takeId, index }: StoredRow): Promise<string> => {
  const take = (await models.takes.findByPk(String(takeId), { attributes: ['title', 'startedAt'] }))?.get({ plain: true });
  return `${Number(index) + 1} of ${take ? takeName(take.title, take.startedAt) : takeId}`;
};

/** Rows are read by so many, so that the player's own requests come in between. */
const ROWS_AT_ONCE = 200;

/** What was found when rows were compared with their checksums. */
export interface RowCheck {
  rows: number;
  /** Rows that are not as they were written. */
  damaged: { kind: RowKind; name: string; key: string }[];
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

/** How rows are compared. */
interface Comparing {
  /** Called now and then; may throw to stop it. */
  onRows?(): void;
  /** Whether the processor is left alone half of the time: somebody may be practising. */
  gently?: boolean;
}

/** Compares every row with its checksum, and gives one to those that have none yet. */
export const checkRows = async (store: Store, { onRows = () => {}, gently = false }: Comparing = {}): Promise<RowCheck> => {
  const found: RowCheck = { rows: 0, damaged: [], takeIds: [] };
  for (const [table, { kind, nameOf, keyOf = nameOf }] of Object.entries(KINDS) as [
    keyof Models,
    (typeof KINDS)[keyof Models],
  ][]) {
    const model: AnyModel = store.models[table];
    const columns = sealedColumns(model);
    const selected = ['checksum', ...columns].map((name) => `"${name}"`).join();
    for (let after = 0; ; ) {
      const begunMs = performance.now();
      const rows = await store.database.query<StoredRow>(
        `SELECT rowid AS rowId, ${selected} FROM ${table} WHERE rowid > ${after} ORDER BY rowid LIMIT ${ROWS_AT_ONCE}`,
        { type: QueryTypes.SELECT },
      );
      const fresh = rows.filter(({ checksum }) => checksum === '');
      if (fresh.length > 0 && !store.isReadOnly) await sealRows(store, model, fresh);
      for (const row of rows) {
        if (row.checksum === '' || row.checksum === checksumOf(columns, row)) continue;
        const name = table === 'repetitions' ? await repetitionName(store, row) : nameOf(row);
        found.damaged.push({ kind, name, key: keyOf(row) });
        if (table === 'takes') found.takeIds.push(String(row.id));
        if (table === 'repetitions') found.takeIds.push(String(row.takeId));
      }
      found.rows += rows.length;
      onRows();
      if (gently) await setTimeout(performance.now() - begunMs);
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
  for (const { kind, name, key } of damaged) unreadable.note(kind, name, key);
};
