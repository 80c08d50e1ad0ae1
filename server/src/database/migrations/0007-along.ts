import type { QueryInterface } from 'sequelize';

/** Recordings to play along with: their sound lies beside the takes' recordings. And an index of titles, by which takes are searched. */
export const along = {
  name: '0007-along',
  async up({ context: { sequelize } }: { context: QueryInterface }): Promise<void> {
    await sequelize.query('CREATE INDEX takes_title ON takes (title, startedAt, id)', { raw: true });
    await sequelize.query(
      `CREATE TABLE accompaniments (id VARCHAR(255) PRIMARY KEY NOT NULL, title VARCHAR(255) NOT NULL, revision INTEGER NOT NULL,
         file VARCHAR(255) NOT NULL, bytes INTEGER NOT NULL, document JSON)`,
      { raw: true },
    );
  },
};
