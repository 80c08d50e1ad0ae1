import type { QueryInterface } from 'sequelize';

/** Passages stand on a shelf, the notebook has a table, and takes know the method that they were played by. */
export const material = {
  name: '0005-material',
  async up({ context: { sequelize } }: { context: QueryInterface }): Promise<void> {
    const run = (sql: string) => sequelize.query(sql, { raw: true });
    for (const column of [
      "tags JSON NOT NULL DEFAULT '[]'",
      // What lists show, so that five hundred scores need not be read for it.
      'summary JSON',
      'archivedAt VARCHAR(255)',
      'removedAt VARCHAR(255)',
      'editedAt VARCHAR(255)',
    ])
      await run(`ALTER TABLE passages ADD COLUMN ${column}`);
    await run(
      `CREATE TABLE solutions (id VARCHAR(255) NOT NULL PRIMARY KEY, passageId VARCHAR(255) NOT NULL, editedAt VARCHAR(255) NOT NULL, document JSON NOT NULL)`,
    );
    await run('CREATE INDEX solutions_of_passage ON solutions (passageId, editedAt)');
    await run("ALTER TABLE takes ADD COLUMN methodId VARCHAR(255) NOT NULL DEFAULT 'straight'");
    await run(
      `UPDATE takes SET methodId = COALESCE(CASE WHEN json_valid(drills) THEN json_extract(drills, '$[0].method.id') END, 'straight')`,
    );
    // The history of a passage's tempos is of what was played straight: others say nothing of it.
    await run('DROP INDEX takes_history');
    await run('CREATE INDEX takes_history ON takes (passageId, methodId, startedAt, bestCleanBpm, startBpm)');
    // A click on every beat was what there was before one could leave it to the method.
    await run(
      `UPDATE courses SET document = json_set(document, '$.click', NULL)
       WHERE json_valid(document) AND json_extract(document, '$.click.kind') = 'beat' AND json_extract(document, '$.click.countInBars') = 1`,
    );
  },
};
