import type { EarlierAnalysis, NoteResult, Onset, Repetition, Take, TakeSummary } from '@isochron/core';
import { EarlierAnalysisSchema, RepetitionSchema, TakeSchema, TakeSummarySchema } from '@isochron/core';
import type { OnsetRow, RepetitionRow, TakeRow } from './database/models';
import type { Store } from './database/open';

const toTakeRow = (take: Take): TakeRow => {
  const { repetitions, hasRecording: _, ...row } = take;
  return {
    ...row,
    repetitionCount: repetitions.length,
    cleanCount: repetitions.filter((repetition) => repetition.verdict.outcome === 'clean').length,
  };
};

const toRepetitionRow = (takeId: string, repetition: Repetition): RepetitionRow => {
  const { notes: _notes, extras: _extras, verdict, edits = null, ...rest } = repetition;
  return { takeId, ...rest, ...verdict, edits };
};

const toOnsetRows = (repetitionId: number, { notes, extras }: Repetition): OnsetRow[] => [
  ...notes.map(({ index, expectedS, onsetS, deviationMs, levelDb, ...details }) => ({
    repetitionId,
    noteIndex: index,
    expectedS,
    timeS: onsetS,
    deviationMs,
    levelDb,
    details,
  })),
  ...extras.map(({ timeS, levelDb, ...details }) => ({
    repetitionId,
    noteIndex: null,
    expectedS: null,
    timeS,
    deviationMs: null,
    levelDb,
    details,
  })),
];

/**
 * Puts a take's new figures in the place of the old ones, which are kept with the version of the engine that made them.
 */
export const replaceAnalysis = async (store: Store, before: Take, after: Take): Promise<void> => {
  await store.models.analyses.create({
    takeId: before.id,
    engine: before.engine,
    replacedAt: new Date().toISOString(),
    repetitions: before.repetitions,
  });
  await putTake(store, after);
};

/** The figures of earlier engines, newest first. */
export const earlierAnalyses = async ({ models }: Store, takeId: string): Promise<EarlierAnalysis[]> =>
  (await models.analyses.findAll({ where: { takeId }, order: [['id', 'DESC']] })).map((row) =>
    EarlierAnalysisSchema.parse(row.get({ plain: true })),
  );

/** Stores a take whole, in place of what was stored under its id. All or nothing. */
export const putTake = async ({ database, models }: Store, take: Take): Promise<void> => {
  await database.transaction(async (transaction) => {
    await models.takes.upsert(toTakeRow(take), { transaction });
    await models.repetitions.destroy({ where: { takeId: take.id }, transaction });
    for (const repetition of take.repetitions) {
      const row = await models.repetitions.create(toRepetitionRow(take.id, repetition), { transaction });
      await models.onsets.bulkCreate(toOnsetRows(row.get('id') as number, repetition), { transaction });
    }
  });
};

const notesFrom = (rows: readonly OnsetRow[]): NoteResult[] =>
  rows
    .filter((row) => row.noteIndex !== null)
    .map((row) => ({
      index: row.noteIndex as number,
      expectedS: row.expectedS as number,
      onsetS: row.timeS,
      deviationMs: row.deviationMs,
      levelDb: row.levelDb,
      ...row.details,
    }))
    .sort((a, b) => a.index - b.index);

const extrasFrom = (rows: readonly OnsetRow[]): Onset[] =>
  rows
    .filter((row) => row.noteIndex === null)
    .map((row) => ({ timeS: row.timeS as number, levelDb: row.levelDb as number, ...row.details }));

const toRepetition = (row: RepetitionRow, onsets: readonly OnsetRow[]): Repetition =>
  RepetitionSchema.parse({
    ...row,
    edits: row.edits ?? undefined,
    verdict: { outcome: row.outcome, reason: row.reason, sentence: row.sentence },
    notes: notesFrom(onsets),
    extras: extrasFrom(onsets),
  });

/** A stored take with its repetitions and notes, or null. */
export const getTake = async ({ models }: Store, id: string): Promise<Take | null> => {
  const row = (await models.takes.findByPk(id))?.get({ plain: true });
  if (!row) return null;
  const repetitions = (await models.repetitions.findAll({ where: { takeId: id }, order: [['index', 'ASC']] })).map((one) =>
    one.get({ plain: true }),
  );
  const onsets = (await models.onsets.findAll({ where: { repetitionId: repetitions.map((one) => one.id as number) } })).map(
    (one) => one.get({ plain: true }),
  );
  const byRepetition = new Map<number, OnsetRow[]>();
  for (const onset of onsets) byRepetition.set(onset.repetitionId, [...(byRepetition.get(onset.repetitionId) ?? []), onset]);
  return TakeSchema.parse({
    ...row,
    hasRecording: (await models.recordings.findByPk(id)) !== null,
    repetitions: repetitions.map((one) => toRepetition(one, byRepetition.get(one.id as number) ?? [])),
  });
};

/** The takes without their notes, newest first; of one exercise where its id is given. */
export const listTakes = async ({ models }: Store, exerciseId?: string): Promise<TakeSummary[]> => {
  const rows = await models.takes.findAll({ where: exerciseId ? { exerciseId } : {}, order: [['startedAt', 'DESC']] });
  const recorded = new Set((await models.recordings.findAll()).map((row) => row.get('takeId')));
  return rows.map((row) => {
    const plain = row.get({ plain: true });
    return TakeSummarySchema.parse({ ...plain, hasRecording: recorded.has(plain.id) });
  });
};
