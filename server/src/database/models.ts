import type {
  Accompaniment,
  Decision,
  Drill,
  Edit,
  Gap,
  Measures,
  NoteResult,
  Onset,
  Passage,
  PassageSummary,
  PracticeConfig,
  PracticeSession,
  Reason,
  Repetition,
  Solution,
  Take,
  TakeSummary,
  TempoMapDocument,
  Tolerance,
  WeakSpot,
} from '@isochron/core/schema';
import {
  DataTypes,
  type Model,
  type ModelAttributeColumnOptions,
  type ModelAttributes,
  type ModelStatic,
  Sequelize,
} from 'sequelize';

export interface PassageRow {
  id: string;
  title: string;
  revision: number;
  document: Passage;
  tags?: string[];
  summary?: PassageSummary | null;
  archivedAt?: string | null;
  removedAt?: string | null;
  editedAt?: string | null;
}

export interface SolutionRow {
  id: string;
  passageId: string;
  editedAt: string;
  document: Solution;
}

export interface PracticeConfigRow {
  id: string;
  passageId: string;
  document: PracticeConfig;
}

export interface PracticeSessionRow {
  id: string;
  startedAt: string;
  document: PracticeSession;
}

export interface TakeRow {
  id: string;
  sessionId: string;
  passageId: string;
  variantId: string;
  sectionId: string;
  title: string;
  passageRevision: number;
  startedAt: string;
  endedAt: string | null;
  input: string;
  purpose: Take['purpose'];
  /** Set by itself, never with the take. */
  note?: string;
  engine: string;
  strategy: Take['strategy'];
  goalBpm: number;
  startBpm: number;
  tolerance: Tolerance;
  latencyS: number | null;
  summary: TakeSummary | null;
  profile: string;
  withoutClick: boolean;
  practiceMode: string;
  sourceFile: string;
  drills: Drill[];
  revision: number;
  gaps: Gap[];
  /** Set with its recording, never with the take. */
  hasRecording?: boolean;
  repetitionCount: number;
  cleanCount: number;
  playedS: number;
  fastS: number;
  openBpm: number | null;
  openClean: boolean | null;
  weak: WeakSpot | null;
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
  why: Reason;
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
  /** Checksum of the file as it was received, in hexadecimal; empty until one from before is looked at. */
  sha256: string;
}

/** A recording to play along with: the document, and the file in which its sound lies. */
export interface AccompanimentRow {
  id: string;
  title: string;
  revision: number;
  file: string;
  bytes: number;
  sha256: string;
  document: Accompaniment;
}

export interface SettingRow {
  key: string;
  document: object;
}

type Table<Row extends object> = ModelStatic<Model<Row>>;

/** The tables. */
export interface Models {
  passages: Table<PassageRow>;
  solutions: Table<SolutionRow>;
  practiceConfigs: Table<PracticeConfigRow>;
  sessions: Table<PracticeSessionRow>;
  takes: Table<TakeRow>;
  repetitions: Table<RepetitionRow>;
  recordings: Table<RecordingRow>;
  accompaniments: Table<AccompanimentRow>;
  settings: Table<SettingRow>;
  analyses: Table<AnalysisRow>;
}

const { STRING, DOUBLE, INTEGER, BOOLEAN, TEXT } = DataTypes;
const key = <Type>(type: Type) => ({ type, primaryKey: true, allowNull: false });
const needed = <Type>(type: Type) => ({ type, allowNull: false });

/** What stands in a column as JSON; undefined where it is none, which the schema of its document then refuses. */
const parsed = (text: unknown): unknown => {
  try {
    return typeof text === 'string' ? JSON.parse(text) : text;
  } catch {
    return undefined;
  }
};

// The library's own reader of JSON columns throws at the first text that is none, and takes every other row of the answer with it:
// documents come as the text that is stored, and each is read by itself.
Sequelize.afterInit('documents as text', (database) => {
  const asText = { types: { sqlite: ['JSON', 'JSONB'] }, parse: (text: unknown) => text };
  database.connectionManager.refreshTypeParser({ JSON: asText });
});

/** Columns that hold documents. */
const documents = <Name extends string>(...names: Name[]) =>
  Object.fromEntries(
    names.map((name) => [
      name,
      {
        type: TEXT,
        get(this: Model) {
          return parsed(this.getDataValue(name));
        },
        set(this: Model, value: unknown) {
          this.setDataValue(name, value === null || value === undefined ? null : JSON.stringify(value));
        },
      } satisfies ModelAttributeColumnOptions,
    ]),
  );

/** Declares the tables to Sequelize; migrations make them. Every row carries a checksum, which `seal` writes. */
export const defineModels = (database: Sequelize): Models => {
  const options = { timestamps: false };
  const define = <Row extends object>(name: string, columns: ModelAttributes<Model<Row>>) =>
    database.define<Model<Row>>(name, { ...columns, checksum: STRING } as ModelAttributes<Model<Row>>, options);
  return {
    passages: define('passages', {
      id: key(STRING),
      title: needed(STRING),
      revision: needed(INTEGER),
      archivedAt: STRING,
      removedAt: STRING,
      editedAt: STRING,
      ...documents('document', 'tags', 'summary'),
    }),
    solutions: define('solutions', {
      id: key(STRING),
      passageId: needed(STRING),
      editedAt: needed(STRING),
      ...documents('document'),
    }),
    practiceConfigs: define('practiceConfigs', { id: key(STRING), passageId: needed(STRING), ...documents('document') }),
    sessions: define('sessions', { id: key(STRING), startedAt: needed(STRING), ...documents('document') }),
    takes: define('takes', {
      id: key(STRING),
      sessionId: needed(STRING),
      passageId: needed(STRING),
      variantId: needed(STRING),
      sectionId: needed(STRING),
      title: needed(STRING),
      passageRevision: needed(INTEGER),
      startedAt: needed(STRING),
      endedAt: STRING,
      input: needed(STRING),
      purpose: needed(STRING),
      note: TEXT,
      playedS: needed(DOUBLE),
      fastS: needed(DOUBLE),
      openBpm: DOUBLE,
      openClean: BOOLEAN,
      engine: needed(STRING),
      goalBpm: needed(DOUBLE),
      startBpm: needed(DOUBLE),
      latencyS: DOUBLE,
      profile: needed(STRING),
      withoutClick: needed(BOOLEAN),
      practiceMode: needed(STRING),
      sourceFile: needed(STRING),
      repetitionCount: needed(INTEGER),
      cleanCount: needed(INTEGER),
      revision: needed(INTEGER),
      hasRecording: BOOLEAN,
      ...documents('strategy', 'tolerance', 'summary', 'drills', 'gaps', 'weak'),
    }),
    repetitions: define('repetitions', {
      takeId: key(STRING),
      index: key(INTEGER),
      drill: needed(INTEGER),
      bpm: needed(DOUBLE),
      downbeatS: needed(DOUBLE),
      outcome: needed(STRING),
      reason: needed(STRING),
      shiftDoubtful: needed(BOOLEAN),
      ease: STRING,
      ...documents('tempo', 'notes', 'extras', 'measures', 'why', 'decision', 'edits'),
    }),
    recordings: define('recordings', { takeId: key(STRING), file: needed(STRING), bytes: needed(INTEGER), sha256: STRING }),
    accompaniments: define('accompaniments', {
      id: key(STRING),
      title: needed(STRING),
      revision: needed(INTEGER),
      file: needed(STRING),
      bytes: needed(INTEGER),
      sha256: STRING,
      ...documents('document'),
    }),
    analyses: define('analyses', {
      id: { type: INTEGER, primaryKey: true, autoIncrement: true },
      takeId: needed(STRING),
      engine: needed(STRING),
      replacedAt: needed(STRING),
      ...documents('repetitions'),
    }),
    settings: define('settings', { key: key(STRING), ...documents('document') }),
  };
};
