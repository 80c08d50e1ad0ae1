import type { QueryInterface } from 'sequelize';

/** What the Ledger sorts by. Each has an index that also answers what it filters by, so that pages need no other row. */
const SORTED = ['startedAt', 'startBpm', 'bestCleanBpm', 'closingBpm', 'nextStartBpm', 'repetitionCount', 'hasRecording'];

/**
 * Takes count their revisions and keep the gaps of their recordings; what lists sort and filter by stands in columns of its own,
 * so that ten years of practice are as quick to look through as ten weeks.
 */
export const years = {
  name: '0004-years',
  async up({ context: { sequelize } }: { context: QueryInterface }): Promise<void> {
    const run = (sql: string) => sequelize.query(sql, { raw: true });
    for (const column of [
      'revision INTEGER NOT NULL DEFAULT 1',
      "gaps JSON NOT NULL DEFAULT '[]'",
      'hasRecording BOOLEAN NOT NULL DEFAULT 0',
      // Read out of the closing, so that they can never disagree with it. A closing that cannot be read has none.
      ...['bestCleanBpm', 'closingBpm', 'nextStartBpm'].map(
        (name) =>
          `${name} DOUBLE GENERATED ALWAYS AS (CASE WHEN json_valid(closing) THEN json_extract(closing, '$.${name}') END) VIRTUAL`,
      ),
    ])
      await run(`ALTER TABLE takes ADD COLUMN ${column}`);
    await run('UPDATE takes SET hasRecording = 1 WHERE id IN (SELECT takeId FROM recordings)');
    for (const column of SORTED) {
      await run(`CREATE INDEX takes_of_passage_by_${column} ON takes (passageId, ${column}, id, cleanCount, hasRecording)`);
      await run(`CREATE INDEX takes_by_${column} ON takes (${column}, id, cleanCount, hasRecording)`);
    }
    await run('CREATE INDEX takes_history ON takes (passageId, startedAt, bestCleanBpm, startBpm)');
    await run('CREATE INDEX takes_recorded ON takes (engine, id) WHERE hasRecording = 1');
  },
};
