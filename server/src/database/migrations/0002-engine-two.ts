import { DataTypes, type QueryInterface } from 'sequelize';

const { STRING, BOOLEAN, INTEGER, JSON: json } = DataTypes;

/** Profiles, files as takes, corrections by hand, what more is known of a note, and the figures of earlier engines. */
export const engineTwo = {
  name: '0002-engine-two',
  async up({ context: tables }: { context: QueryInterface }): Promise<void> {
    await tables.addColumn('takes', 'profile', { type: STRING, allowNull: false, defaultValue: 'any' });
    await tables.addColumn('takes', 'withoutClick', { type: BOOLEAN, allowNull: false, defaultValue: false });
    await tables.addColumn('takes', 'sourceFile', { type: STRING, allowNull: false, defaultValue: '' });
    await tables.addColumn('repetitions', 'edits', { type: json });
    await tables.addColumn('onsets', 'details', { type: json });
    await tables.createTable('analyses', {
      id: { type: INTEGER, primaryKey: true, autoIncrement: true },
      takeId: { type: STRING, allowNull: false, references: { model: 'takes', key: 'id' }, onDelete: 'CASCADE' },
      engine: { type: STRING, allowNull: false },
      replacedAt: { type: STRING, allowNull: false },
      repetitions: { type: json, allowNull: false },
    });
    await tables.addIndex('analyses', ['takeId']);
  },
};
