import type { QueryInterface } from 'sequelize';

/** Every table that holds what was practised, or what it is practised with. */
const TABLES = [
  'settings',
  'passages',
  'solutions',
  'courses',
  'sittings',
  'takes',
  'repetitions',
  'recordings',
  'accompaniments',
  'analyses',
];

/**
 * Rows carry checksums, and recordings those of their files, so that what the disk changed is told from what was played. Rows and files
 * from before get theirs at the first full check: until then they are taken as they are.
 */
export const integrity = {
  name: '0008-integrity',
  async up({ context: { sequelize } }: { context: QueryInterface }): Promise<void> {
    const run = (sql: string) => sequelize.query(sql, { raw: true });
    for (const table of TABLES) await run(`ALTER TABLE ${table} ADD COLUMN checksum VARCHAR(16) NOT NULL DEFAULT ''`);
    for (const table of ['recordings', 'accompaniments'])
      await run(`ALTER TABLE ${table} ADD COLUMN sha256 VARCHAR(64) NOT NULL DEFAULT ''`);
  },
};
