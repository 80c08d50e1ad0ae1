import { type QueryInterface, QueryTypes } from 'sequelize';
import {
  closingFrom,
  drillFrom,
  type OldExercise,
  type OldRepetition,
  passageFrom,
  repetitionFrom,
} from './0003/old-documents';

type Row = Record<string, unknown>;

/** JSON columns come as text from plain queries. */
const read = <Value>(stored: unknown): Value => (typeof stored === 'string' ? JSON.parse(stored) : stored) as Value;

const NOTE_COLUMNS = ['noteIndex', 'expectedS', 'timeS', 'deviationMs', 'levelDb', 'details'] as const;

const noteOf = (row: Row) => ({
  index: row.noteIndex as number,
  expectedS: row.expectedS as number,
  onsetS: row.timeS,
  deviationMs: row.deviationMs,
  levelDb: row.levelDb,
  ...read<object>(row.details ?? '{}'),
});
const extraOf = (row: Row) => ({ timeS: row.timeS, levelDb: row.levelDb, ...read<object>(row.details ?? '{}') });

/**
 * Exercises become passages, sessions sittings; a take keeps its drills; goals and schools get a home of their own; a repetition
 * is one row with its notes, named by its take and index. Old figures and sentences stay as they were.
 */
export const seams = {
  name: '0003-seams',
  async up({ context: tables }: { context: QueryInterface }): Promise<void> {
    const { sequelize } = tables;
    const run = (sql: string, replacements: unknown[] = []) => sequelize.query(sql, { replacements, raw: true });
    const all = (sql: string, replacements: unknown[] = []) =>
      sequelize.query<Row>(sql, { replacements, type: QueryTypes.SELECT, raw: true });

    const exercises = new Map(
      (await all('SELECT id, document FROM exercises')).map((row) => [row.id as string, read<OldExercise>(row.document)]),
    );
    const [stored] = await all("SELECT document FROM settings WHERE key = 'player'");
    const stepBpm = stored ? (read<{ stepBpm?: number }>(stored.document).stepBpm ?? 5) : 5;

    await run('ALTER TABLE exercises RENAME TO passages');
    await run('ALTER TABLE passages ADD COLUMN revision INTEGER NOT NULL DEFAULT 1');
    for (const [id, exercise] of exercises)
      await run('UPDATE passages SET document = ? WHERE id = ?', [JSON.stringify(passageFrom(exercise)), id]);

    await run('ALTER TABLE sessions RENAME TO sittings');
    await run("ALTER TABLE sittings ADD COLUMN document JSON NOT NULL DEFAULT '{}'");
    for (const { id, startedAt } of await all('SELECT id, startedAt FROM sittings'))
      await run('UPDATE sittings SET document = ? WHERE id = ?', [
        JSON.stringify({ id, startedAt, lastAt: startedAt, blocks: [] }),
        id,
      ]);

    await run('ALTER TABLE takes RENAME COLUMN sessionId TO sittingId');
    await run('ALTER TABLE takes RENAME COLUMN exerciseId TO passageId');
    await run('ALTER TABLE takes RENAME COLUMN school TO oldSchool');
    for (const column of [
      "variantId VARCHAR(255) NOT NULL DEFAULT 'first'",
      "sectionId VARCHAR(255) NOT NULL DEFAULT 'whole'",
      "title VARCHAR(255) NOT NULL DEFAULT ''",
      'passageRevision INTEGER NOT NULL DEFAULT 1',
      'school JSON',
      "drills JSON NOT NULL DEFAULT '[]'",
    ])
      await run(`ALTER TABLE takes ADD COLUMN ${column}`);

    await run('ALTER TABLE repetitions RENAME TO oldRepetitions');
    await run('DROP INDEX IF EXISTS repetitions_take_id_index');
    await run(
      'CREATE TABLE repetitions (takeId VARCHAR(255) NOT NULL REFERENCES takes (id) ON DELETE CASCADE, "index" INTEGER NOT NULL, ' +
        'drill INTEGER NOT NULL, tempo JSON NOT NULL, bpm DOUBLE NOT NULL, downbeatS DOUBLE NOT NULL, notes JSON NOT NULL, ' +
        'extras JSON NOT NULL, measures JSON NOT NULL, outcome VARCHAR(255) NOT NULL, reason VARCHAR(255) NOT NULL, why JSON NOT NULL, ' +
        'shiftDoubtful TINYINT(1) NOT NULL, ease VARCHAR(255), decision JSON NOT NULL, edits JSON, PRIMARY KEY (takeId, "index"))',
    );
    await run(
      'CREATE TABLE courses (id VARCHAR(255) PRIMARY KEY NOT NULL, passageId VARCHAR(255) NOT NULL REFERENCES passages (id) ON DELETE CASCADE, document JSON NOT NULL)',
    );

    const latest = new Map<string, Row>();
    for (const take of await all('SELECT * FROM takes ORDER BY startedAt')) {
      const exercise = exercises.get(take.passageId as string);
      if (!exercise) continue;
      const repetitions: OldRepetition[] = [];
      for (const row of await all('SELECT * FROM oldRepetitions WHERE takeId = ? ORDER BY "index"', [take.id])) {
        const onsets = await all(`SELECT ${NOTE_COLUMNS.join(', ')} FROM onsets WHERE repetitionId = ? ORDER BY id`, [row.id]);
        const notes = onsets.filter((one) => one.noteIndex !== null).map(noteOf);
        notes.sort((a, b) => a.index - b.index);
        const { outcome, reason, sentence } = row as Record<string, string>;
        const extras = onsets.filter((one) => one.noteIndex === null).map(extraOf);
        repetitions.push({
          index: row.index as number,
          tempoBpm: row.tempoBpm as number,
          downbeatS: row.downbeatS as number,
          notes,
          extras,
          verdict: { outcome: outcome as string, reason: reason as string, sentence: sentence as string },
          decision: read(row.decision),
        });
        const now = repetitionFrom(repetitions.at(-1) as OldRepetition);
        await run(`INSERT INTO repetitions VALUES (${Array.from({ length: 16 }, () => '?').join(', ')})`, [
          take.id,
          row.index,
          0,
          JSON.stringify(now.tempo),
          row.tempoBpm,
          row.downbeatS,
          JSON.stringify(notes),
          JSON.stringify(extras),
          typeof row.measures === 'string' ? row.measures : JSON.stringify(row.measures),
          outcome,
          reason,
          JSON.stringify(now.verdict.why),
          row.shiftDoubtful,
          row.ease,
          JSON.stringify(now.decision),
          row.edits === null || typeof row.edits === 'string' ? row.edits : JSON.stringify(row.edits),
        ]);
      }
      const drill = drillFrom(exercise, repetitions[0], Boolean(take.withoutClick));
      const closing = closingFrom(read(take.closing ?? 'null'));
      const school =
        take.oldSchool === 'half-speed-climb'
          ? { id: 'half-speed-climb', options: { stepBpm: take.stepBpm }, state: null }
          : null;
      await run('UPDATE takes SET title = ?, school = ?, drills = ?, closing = ? WHERE id = ?', [
        exercise.title,
        school && JSON.stringify(school),
        JSON.stringify([drill]),
        closing && JSON.stringify(closing),
        take.id,
      ]);
      if (closing && take.input !== 'file') latest.set(take.passageId as string, { ...take, closing });
    }

    for (const [passageId, take] of latest) {
      const course = {
        passageId,
        variantId: 'first',
        sectionId: 'whole',
        goalBpm: take.goalBpm,
        schoolId: 'half-speed-climb',
        schools: { 'half-speed-climb': { options: { stepBpm }, state: null } },
        methodId: 'straight',
        methodParameters: {},
        click: { kind: 'beat', divisions: 2, countInBars: 1 },
        last: { takeId: take.id, startedAt: take.startedAt, closing: take.closing },
      };
      await run('INSERT INTO courses VALUES (?, ?, ?)', [`${passageId}.first.whole`, passageId, JSON.stringify(course)]);
    }

    for (const { id, repetitions } of await all('SELECT id, repetitions FROM analyses'))
      await run('UPDATE analyses SET repetitions = ? WHERE id = ?', [
        JSON.stringify(read<OldRepetition[]>(repetitions).map(repetitionFrom)),
        id,
      ]);
    if (stored)
      await run("UPDATE settings SET document = ? WHERE key = 'player'", [
        JSON.stringify({ ...read<object>(stored.document), schoolOptions: { 'half-speed-climb': { stepBpm } } }),
      ]);

    await run('DROP TABLE onsets');
    await run('DROP TABLE oldRepetitions');
    await run('ALTER TABLE takes DROP COLUMN oldSchool');
    await run('ALTER TABLE takes DROP COLUMN stepBpm');
    await run('CREATE INDEX takes_course ON takes (passageId, variantId, sectionId, startedAt)');
  },
};
