import type { QueryInterface } from 'sequelize';

/** The index that days of practice are counted from holds as well whether there was a click: it is summed without a look at the takes. */
export const withoutClick = {
  name: '0011-without-click',
  async up({ context: { sequelize } }: { context: QueryInterface }): Promise<void> {
    const run = (sql: string) => sequelize.query(sql, { raw: true });
    await run('DROP INDEX takes_practice');
    await run(
      `CREATE INDEX takes_practice ON takes (passageId, startedAt, variantId, sectionId, practiceMode, repetitionCount, cleanCount, playedS,
         fastS, openBpm, openClean, bestCleanBpm, withoutClick)`,
    );
  },
};
