import { DataTypes, type QueryInterface } from 'sequelize';

const { STRING, TEXT, DOUBLE, INTEGER, BOOLEAN, JSON: jsonText } = DataTypes;
const key = { type: STRING, primaryKey: true, allowNull: false };
const counter = { type: INTEGER, primaryKey: true, autoIncrement: true };
const text = { type: STRING, allowNull: false };
const long = { type: TEXT, allowNull: false };
const real = { type: DOUBLE, allowNull: false };
const whole = { type: INTEGER, allowNull: false };
const json = { type: jsonText, allowNull: false };
const to = (table: string, type: typeof STRING | typeof INTEGER, onDelete: string) => ({
  type,
  allowNull: false,
  references: { model: table, key: 'id' },
  onDelete,
});

/** Exercises, sessions, takes, repetitions, onsets, recordings and settings. */
export const firstTables = {
  name: '0001-first-tables',
  async up({ context: tables }: { context: QueryInterface }): Promise<void> {
    await tables.createTable('exercises', { id: key, title: text, document: json });
    await tables.createTable('sessions', { id: key, startedAt: text });
    await tables.createTable('takes', {
      id: key,
      sessionId: to('sessions', STRING, 'RESTRICT'),
      exerciseId: to('exercises', STRING, 'RESTRICT'),
      startedAt: text,
      endedAt: STRING,
      input: text,
      engine: text,
      school: text,
      goalBpm: real,
      startBpm: real,
      stepBpm: real,
      tolerance: json,
      latencyS: DOUBLE,
      closing: jsonText,
      repetitionCount: whole,
      cleanCount: whole,
    });
    await tables.addIndex('takes', ['startedAt']);
    await tables.createTable('repetitions', {
      id: counter,
      takeId: to('takes', STRING, 'CASCADE'),
      index: whole,
      tempoBpm: real,
      downbeatS: real,
      measures: json,
      outcome: text,
      reason: text,
      sentence: long,
      shiftDoubtful: { type: BOOLEAN, allowNull: false },
      ease: STRING,
      decision: json,
    });
    await tables.addIndex('repetitions', ['takeId', 'index'], { unique: true });
    await tables.createTable('onsets', {
      id: counter,
      repetitionId: to('repetitions', INTEGER, 'CASCADE'),
      noteIndex: INTEGER,
      expectedS: DOUBLE,
      timeS: DOUBLE,
      deviationMs: DOUBLE,
      levelDb: DOUBLE,
    });
    await tables.addIndex('onsets', ['repetitionId']);
    await tables.createTable('recordings', {
      takeId: { ...to('takes', STRING, 'CASCADE'), primaryKey: true },
      file: text,
      bytes: whole,
    });
    await tables.createTable('settings', { key, document: json });
  },
};
