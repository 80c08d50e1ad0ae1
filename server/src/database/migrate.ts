import { rename, rm } from 'node:fs/promises';
import { join } from 'node:path';
import type { Sequelize } from 'sequelize';
import { SequelizeStorage, Umzug } from 'umzug';
import { fileSize } from '../file-size';
import { firstTables } from './migrations/0001-first-tables';
import { engineTwo } from './migrations/0002-engine-two';
import { seams } from './migrations/0003-seams';
import { years } from './migrations/0004-years';
import { material } from './migrations/0005-material';
import { weeks } from './migrations/0006-weeks';
import { along as playAlongTable } from './migrations/0007-along';
import { integrity } from './migrations/0008-integrity';
import { corrections } from './migrations/0009-corrections';
import { names } from './migrations/0010-names';
import { withoutClick } from './migrations/0011-without-click';
import { tooNew } from './store-error';

/** Every migration, in the order in which they run. */
const MIGRATIONS = [
  firstTables,
  engineTwo,
  seams,
  years,
  material,
  weeks,
  playAlongTable,
  integrity,
  corrections,
  names,
  withoutClick,
];

/** Their names, in the same order. */
export const MIGRATION_NAMES: readonly string[] = MIGRATIONS.map(({ name }) => name);

const storageOf = (database: Sequelize) => new SequelizeStorage({ sequelize: database });
const migrator = (database: Sequelize) =>
  new Umzug({
    migrations: MIGRATIONS,
    context: database.getQueryInterface(),
    storage: storageOf(database),
    logger: undefined,
  });

/**
 * Copies the database before it is changed, by SQLite itself: to open the file any other way would, on being closed, drop every lock
 * that this program has on it. The first copy is kept: a later one might be of something half done.
 */
const copyBefore = async (database: Sequelize, copy: string): Promise<void> => {
  if ((await fileSize(copy)) !== null) return;
  const unfinished = `${copy}.part`;
  await rm(unfinished, { force: true });
  await database.query('VACUUM INTO ?', { replacements: [unfinished] });
  await rename(unfinished, copy);
};

/** The names of the migrations that are due. Throws StoreError for a database of a later version. */
export const dueMigrations = async (database: Sequelize, dataFolder: string): Promise<string[]> => {
  if ((await storageOf(database).executed()).some((name) => !MIGRATION_NAMES.includes(name))) throw tooNew(dataFolder);
  return (await migrator(database).pending()).map(({ name }) => name);
};

/**
 * Brings the tables up to date: all due migrations or none, with the note that they ran, so that a start that is broken off
 * leaves the database as it was. One that is not new is copied first to `isochron.before-NAME.db`. Throws StoreError for a database of
 * a later version.
 */
export const migrate = async (database: Sequelize, dataFolder: string, isNew: boolean): Promise<void> => {
  const [due] = await dueMigrations(database, dataFolder);
  if (due === undefined) return;
  if (!isNew) await copyBefore(database, join(dataFolder, `isochron.before-${due}.db`));
  await database.query('BEGIN IMMEDIATE');
  try {
    await migrator(database).up();
    await database.query('COMMIT');
  } catch (error) {
    await database.query('ROLLBACK').catch(() => {});
    throw error;
  }
};

/** Makes the tables of an empty database as they were after so many of the migrations. */
export const makeTables = async (database: Sequelize, upTo: string): Promise<void> => {
  await migrator(database).up({ to: upTo });
};
