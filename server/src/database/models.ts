import type { Closing, Decision, Edit, Exercise, Measures, NoteResult, Repetition, Settings, Tolerance } from '@isochron/core';
import { DataTypes, type Model, type ModelStatic, type Sequelize } from 'sequelize';

export interface ExerciseRow {
  id: string;
  title: string;
  document: Exercise;
}

export interface SessionRow {
  id: string;
  startedAt: string;
}

export interface TakeRow {
  id: string;
  sessionId: string;
  exerciseId: string;
  startedAt: string;
  endedAt: string | null;
  input: string;
  engine: string;
  school: string;
  goalBpm: number;
  startBpm: number;
  stepBpm: number;
  tolerance: Tolerance;
  latencyS: number | null;
  closing: Closing | null;
  profile: string;
  withoutClick: boolean;
  sourceFile: string;
  repetitionCount: number;
  cleanCount: number;
}

export interface RepetitionRow {
  id?: number;
  takeId: string;
  index: number;
  tempoBpm: number;
  downbeatS: number;
  measures: Measures;
  outcome: string;
  reason: string;
  sentence: string;
  shiftDoubtful: boolean;
  ease: string | null;
  decision: Decision;
  edits: Edit[] | null;
}

/** One note of a repetition: an expected one (with or without an onset) or, without `noteIndex`, an extra one. */
export interface OnsetRow {
  id?: number;
  repetitionId: number;
  noteIndex: number | null;
  expectedS: number | null;
  timeS: number | null;
  deviationMs: number | null;
  levelDb: number | null;
  details: NoteDetails | null;
}

/** What more is known of a note than its time and level. */
export type NoteDetails = Pick<NoteResult, 'cents' | 'wrongPitch' | 'pitch' | 'offS' | 'members'>;

/** The figures of a take by an earlier engine. */
export interface AnalysisRow {
  id?: number;
  takeId: string;
  engine: string;
  replacedAt: string;
  repetitions: Repetition[];
}

export interface RecordingRow {
  takeId: string;
  file: string;
  bytes: number;
}

export interface SettingRow {
  key: string;
  document: Settings;
}

type Table<Row extends object> = ModelStatic<Model<Row>>;

/** The tables. */
export interface Models {
  exercises: Table<ExerciseRow>;
  sessions: Table<SessionRow>;
  takes: Table<TakeRow>;
  repetitions: Table<RepetitionRow>;
  onsets: Table<OnsetRow>;
  recordings: Table<RecordingRow>;
  settings: Table<SettingRow>;
  analyses: Table<AnalysisRow>;
}

const { STRING, TEXT, DOUBLE, INTEGER, BOOLEAN, JSON: json } = DataTypes;
const key = (type: typeof STRING) => ({ type, primaryKey: true, allowNull: false });
const needed = <Type>(type: Type) => ({ type, allowNull: false });

/** Declares the tables to Sequelize; migrations make them. */
export const defineModels = (database: Sequelize): Models => {
  const options = { timestamps: false };
  return {
    exercises: database.define('exercises', { id: key(STRING), title: needed(STRING), document: needed(json) }, options),
    sessions: database.define('sessions', { id: key(STRING), startedAt: needed(STRING) }, options),
    takes: database.define(
      'takes',
      {
        id: key(STRING),
        sessionId: needed(STRING),
        exerciseId: needed(STRING),
        startedAt: needed(STRING),
        endedAt: STRING,
        input: needed(STRING),
        engine: needed(STRING),
        school: needed(STRING),
        goalBpm: needed(DOUBLE),
        startBpm: needed(DOUBLE),
        stepBpm: needed(DOUBLE),
        tolerance: needed(json),
        latencyS: DOUBLE,
        closing: json,
        profile: needed(STRING),
        withoutClick: needed(BOOLEAN),
        sourceFile: needed(STRING),
        repetitionCount: needed(INTEGER),
        cleanCount: needed(INTEGER),
      },
      options,
    ),
    repetitions: database.define(
      'repetitions',
      {
        id: { type: INTEGER, primaryKey: true, autoIncrement: true },
        takeId: needed(STRING),
        index: needed(INTEGER),
        tempoBpm: needed(DOUBLE),
        downbeatS: needed(DOUBLE),
        measures: needed(json),
        outcome: needed(STRING),
        reason: needed(STRING),
        sentence: needed(TEXT),
        shiftDoubtful: needed(BOOLEAN),
        ease: STRING,
        decision: needed(json),
        edits: json,
      },
      options,
    ),
    onsets: database.define(
      'onsets',
      {
        id: { type: INTEGER, primaryKey: true, autoIncrement: true },
        repetitionId: needed(INTEGER),
        noteIndex: INTEGER,
        expectedS: DOUBLE,
        timeS: DOUBLE,
        deviationMs: DOUBLE,
        levelDb: DOUBLE,
        details: json,
      },
      options,
    ),
    recordings: database.define('recordings', { takeId: key(STRING), file: needed(STRING), bytes: needed(INTEGER) }, options),
    analyses: database.define(
      'analyses',
      {
        id: { type: INTEGER, primaryKey: true, autoIncrement: true },
        takeId: needed(STRING),
        engine: needed(STRING),
        replacedAt: needed(STRING),
        repetitions: needed(json),
      },
      options,
    ),
    settings: database.define('settings', { key: key(STRING), document: needed(json) }, options),
  };
};
