import type { QueryInterface } from 'sequelize';

/** What the days of practice are counted from; an index holds all of it, so that years are summed without a look at the takes. */
const COUNTED =
  'startedAt, variantId, sectionId, methodId, repetitionCount, cleanCount, playedS, fastS, openBpm, openClean, bestCleanBpm';

/** Takes know what they were played for, how long, how much of it fast, how the day opened, and what the player wrote about them. */
export const weeks = {
  name: '0006-weeks',
  async up({ context: { sequelize } }: { context: QueryInterface }): Promise<void> {
    const run = (sql: string) => sequelize.query(sql, { raw: true });
    for (const column of [
      "purpose VARCHAR(255) NOT NULL DEFAULT 'work'",
      "note TEXT NOT NULL DEFAULT ''",
      'playedS DOUBLE NOT NULL DEFAULT 0',
      'fastS DOUBLE NOT NULL DEFAULT 0',
      'openBpm DOUBLE',
      'openClean BOOLEAN',
      'weak JSON',
    ])
      await run(`ALTER TABLE takes ADD COLUMN ${column}`);
    // As core counts it (plan/digest-take.ts); the last repetition's length is taken from the one before it. Weak spots need the notes:
    // those of old takes stay unknown.
    await run(
      `CREATE TEMP TABLE lengths AS SELECT takeId, "index", bpm, MIN(600, MAX(0, COALESCE(
         LEAD(downbeatS) OVER byTake - downbeatS, downbeatS - LAG(downbeatS) OVER byTake, 0))) AS lengthS
       FROM repetitions WINDOW byTake AS (PARTITION BY takeId ORDER BY "index")`,
    );
    await run('CREATE INDEX temp.lengths_of_take ON lengths (takeId)');
    await run(
      `UPDATE takes SET playedS = COALESCE((SELECT SUM(lengthS) FROM lengths WHERE takeId = takes.id), 0),
         fastS = COALESCE((SELECT SUM(lengthS) FROM lengths WHERE takeId = takes.id AND bpm >= 0.9 * takes.goalBpm), 0)`,
    );
    await run('DROP TABLE temp.lengths');
    const open = (column: string) =>
      `(SELECT ${column} FROM repetitions WHERE takeId = takes.id AND drill = 0 AND outcome <> 'not-judged' ORDER BY "index" LIMIT 1)`;
    await run(
      `UPDATE takes SET openBpm = ${open('bpm')}, openClean = ${open("outcome = 'clean'")} WHERE methodId = 'straight' AND input <> 'file'`,
    );
    await run(`CREATE INDEX takes_practice ON takes (passageId, ${COUNTED})`);
    await run('CREATE INDEX takes_weak ON takes (startedAt, passageId) WHERE weak IS NOT NULL');
    await run("CREATE INDEX takes_noted ON takes (startedAt) WHERE note <> ''");
  },
};
