import { join } from 'node:path';
import { BUILT_IN_PASSAGES } from '@isochron/core/material';
import { QueryTypes } from 'sequelize';
import { openStore } from '../../server/src/database/open';
import { storeMissingPassages } from '../../server/src/passages';
import { putPracticeSession } from '../../server/src/practice-sessions';
import { putTake } from '../../server/src/takes';
import { makeOne, PRACTICE_SESSION } from '../../server/src/testing/made-takes';

const YEARS = 10;
/** As many takes as ten years hold. */
export const MANY = 100_000;

/** A data folder with so many takes over ten years, three in five of one passage; each with its repetitions; in a folder of `work`. */
export const fill = async (count: number, work: string): Promise<string> => {
  const folder = join(work, String(count));
  const store = await openStore(folder);
  await storeMissingPassages(store, BUILT_IN_PASSAGES);
  await putPracticeSession(store, PRACTICE_SESSION);
  const pattern = makeOne();
  await putTake(store, pattern);
  const { database } = store;
  const columnsOf = async (table: string) =>
    (
      await database.query<{ name: string }>('SELECT name FROM pragma_table_xinfo(?) WHERE hidden = 0', {
        replacements: [table],
        type: QueryTypes.SELECT,
      })
    ).map(({ name }) => name);
  const passages = BUILT_IN_PASSAGES.map(({ id }) => id);
  const passage = `CASE WHEN n % 5 < 3 THEN '${passages[0]}' ELSE json_extract('${JSON.stringify(passages)}', '$[' || (n % ${passages.length}) || ']') END`;
  const own: Record<string, string> = {
    id: "printf('%08x-0000-4000-8000-000000000000', n)",
    takeId: "printf('%08x-0000-4000-8000-000000000000', n)",
    passageId: passage,
    startedAt: `strftime('%Y-%m-%dT%H:%M:%fZ', '2016-11-20', '+' || CAST(n * ${(YEARS * 365 * 86_400) / MANY} AS INTEGER) || ' seconds')`,
    startBpm: '40 + n % 97',
    hasRecording: 'n % 3 = 0',
    // Made by copying: as rows from before checksums are, they are taken as they are.
    checksum: "''",
    summary: "json_set(summary, '$.bestCleanBpm', 50 + n % 89, '$.closingBpm', 45 + n % 83)",
  };
  const numbers = `WITH RECURSIVE numbers (n) AS (SELECT 1 UNION ALL SELECT n + 1 FROM numbers WHERE n < ${count})`;
  for (const [table, where] of [
    ['takes', 'id'],
    ['repetitions', 'takeId'],
  ] as const) {
    const columns = await columnsOf(table);
    const names = columns.map((name) => `"${name}"`).join();
    const values = columns.map((name) => own[name] ?? `${table}."${name}"`).join();
    await database.query(
      `INSERT INTO ${table} (${names}) ${numbers} SELECT ${values} FROM numbers, ${table} WHERE ${table}."${where}" = ?` +
        (table === 'repetitions' ? ' AND "index" < 2' : ''),
      { replacements: [pattern.id] },
    );
  }
  await database.query('ANALYZE');
  await store.close();
  return folder;
};
