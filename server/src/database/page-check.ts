import { QueryTypes, type Sequelize } from 'sequelize';

const problemsOf = async (database: Sequelize, pragma: 'quick_check' | 'integrity_check'): Promise<string[]> => {
  const rows = await database.query<Record<string, string>>(`PRAGMA ${pragma}(20)`, { type: QueryTypes.SELECT });
  return rows.map((row) => Object.values(row)[0] ?? '').filter((line) => line !== 'ok');
};

/** What is wrong with the pages of a database: whether they can be read and hang together. Empty where nothing is. */
export const quickProblems = (database: Sequelize): Promise<string[]> => problemsOf(database, 'quick_check');

/** As {@link quickProblems}, and whether every index says what its table says. */
export const allProblems = (database: Sequelize): Promise<string[]> => problemsOf(database, 'integrity_check');
