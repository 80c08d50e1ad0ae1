import type {
  Closing,
  Course,
  Decision,
  Drill,
  Edit,
  Measures,
  NoteResult,
  Onset,
  Passage,
  Repetition,
  Sitting,
  Take,
  TempoMapDocument,
  Tolerance,
  Why,
} from '@isochron/core';
import { DataTypes, type Model, type ModelStatic, type Sequelize } from 'sequelize';

export interface PassageRow {
  id: string;
  title: string;
  revision: number;
  document: Passage;
}

export interface CourseRow {
  id: string;
  passageId: string;
  document: Course;
}

export interface SittingRow {
  id: string;
  startedAt: string;
  document: Sitting;
}

export interface TakeRow {
  id: string;
  sittingId: string;
  passageId: string;
  variantId: string;
  sectionId: string;
  title: string;
  passageRevision: number;
  startedAt: string;
  endedAt: string | null;
  input: string;
  engine: string;
  school: Take['school'];
  goalBpm: number;
  startBpm: number;
  tolerance: Tolerance;
  latencyS: number | null;
  closing: Closing | null;
  profile: string;
  withoutClick: boolean;
  sourceFile: string;
  drills: Drill[];
  repetitionCount: number;
  cleanCount: number;
}

/** One repetition with its notes; its take and its index name it for good. */
export interface RepetitionRow {
  takeId: string;
  index: number;
  drill: number;
  tempo: TempoMapDocument;
  /** The tempo by which it is named, for queries. */
  bpm: number;
  downbeatS: number;
  notes: NoteResult[];
  extras: Onset[];
  measures: Measures;
  outcome: string;
  reason: string;
  why: Why;
  shiftDoubtful: boolean;
  ease: string | null;
  decision: Decision;
  edits: Edit[] | null;
}

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
  document: object;
}

type Table<Row extends object> = ModelStatic<Model<Row>>;

/** The tables. */
export interface Models {
  passages: Table<PassageRow>;
  courses: Table<CourseRow>;
  sittings: Table<SittingRow>;
  takes: Table<TakeRow>;
  repetitions: Table<RepetitionRow>;
  recordings: Table<RecordingRow>;
  settings: Table<SettingRow>;
  analyses: Table<AnalysisRow>;
}

const { STRING, DOUBLE, INTEGER, BOOLEAN, JSON: json } = DataTypes;
const key = <Type>(type: Type) => ({ type, primaryKey: true, allowNull: false });
const needed = <Type>(type: Type) => ({ type, allowNull: false });

/** Declares the tables to Sequelize; migrations make them. */
export const defineModels = (database: Sequelize): Models => {
  const options = { timestamps: false };
  return {
    passages: database.define(
      'passages',
      { id: key(STRING), title: needed(STRING), revision: needed(INTEGER), document: needed(json) },
      options,
    ),
    courses: database.define('courses', { id: key(STRING), passageId: needed(STRING), document: needed(json) }, options),
    sittings: database.define('sittings', { id: key(STRING), startedAt: needed(STRING), document: needed(json) }, options),
    takes: database.define(
      'takes',
      {
        id: key(STRING),
        sittingId: needed(STRING),
        passageId: needed(STRING),
        variantId: needed(STRING),
        sectionId: needed(STRING),
        title: needed(STRING),
        passageRevision: needed(INTEGER),
        startedAt: needed(STRING),
        endedAt: STRING,
        input: needed(STRING),
        engine: needed(STRING),
        school: json,
        goalBpm: needed(DOUBLE),
        startBpm: needed(DOUBLE),
        tolerance: needed(json),
        latencyS: DOUBLE,
        closing: json,
        profile: needed(STRING),
        withoutClick: needed(BOOLEAN),
        sourceFile: needed(STRING),
        drills: needed(json),
        repetitionCount: needed(INTEGER),
        cleanCount: needed(INTEGER),
      },
      options,
    ),
    repetitions: database.define(
      'repetitions',
      {
        takeId: key(STRING),
        index: key(INTEGER),
        drill: needed(INTEGER),
        tempo: needed(json),
        bpm: needed(DOUBLE),
        downbeatS: needed(DOUBLE),
        notes: needed(json),
        extras: needed(json),
        measures: needed(json),
        outcome: needed(STRING),
        reason: needed(STRING),
        why: needed(json),
        shiftDoubtful: needed(BOOLEAN),
        ease: STRING,
        decision: needed(json),
        edits: json,
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
