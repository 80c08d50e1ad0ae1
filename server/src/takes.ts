import type { EarlierAnalysis, Repetition, Take, TakeSummary } from '@isochron/core';
import { EarlierAnalysisSchema, headlineBpm, RepetitionSchema, TakeSchema, TakeSummarySchema } from '@isochron/core';
import { Op, type Transaction } from 'sequelize';
import { noteTake } from './courses';
import type { RepetitionRow, TakeRow } from './database/models';
import type { Store } from './database/open';
import { Refusal } from './refusal';

const isClean = (repetition: Repetition) => repetition.verdict.outcome === 'clean';

const toTakeRow = (take: Take): TakeRow => {
  const { repetitions, hasRecording: _, ...row } = take;
  return { ...row, repetitionCount: repetitions.length, cleanCount: repetitions.filter(isClean).length };
};

const toRepetitionRow = (takeId: string, repetition: Repetition): RepetitionRow => {
  const { verdict, edits = null, ...rest } = repetition;
  return { takeId, ...rest, bpm: headlineBpm(repetition.tempo), ...verdict, edits };
};

const toRepetition = ({ outcome, reason, why, edits, ...row }: RepetitionRow): Repetition =>
  RepetitionSchema.parse({ ...row, edits: edits ?? undefined, verdict: { outcome, reason, why } });

/**
 * Stores a take in place of what was stored under its id, and what it leaves for its course. All or nothing. Repetitions keep
 * their rows; those that the take does not have any more go.
 */
export const putTake = (store: Store, take: Take): Promise<void> =>
  store.write((transaction) => writeTake(store, take, transaction));

const writeTake = async (store: Store, take: Take, transaction: Transaction): Promise<void> => {
  const { models } = store;
  await models.takes.upsert(toTakeRow(take), { transaction });
  for (const repetition of take.repetitions)
    await models.repetitions.upsert(toRepetitionRow(take.id, repetition), { transaction });
  const gone = { takeId: take.id, index: { [Op.gte]: take.repetitions.length } };
  await models.repetitions.destroy({ where: gone, transaction });
  await noteTake(store, take, transaction);
};

/** Stores one repetition of a take, corrected by hand. Nothing else of the take is touched. */
export const putRepetition = ({ models, write }: Store, takeId: string, repetition: Repetition): Promise<void> =>
  write(async (transaction) => {
    const where = { takeId, index: repetition.index };
    const { takeId: _, index: __, ...columns } = toRepetitionRow(takeId, repetition);
    const [changed] = await models.repetitions.update(columns, { where, transaction });
    if (changed === 0) throw new Refusal(404, 'There is no such repetition in this take.');
    const cleanCount = await models.repetitions.count({ where: { takeId, outcome: 'clean' }, transaction });
    await models.takes.update({ cleanCount }, { where: { id: takeId }, transaction });
  });

/**
 * Puts a take's new figures in the place of the old ones, which are kept with the version of the engine that made them.
 */
export const replaceAnalysis = (store: Store, before: Take, after: Take): Promise<void> =>
  store.write(async (transaction) => {
    const { id: takeId, engine, repetitions } = before;
    const replacedAt = new Date().toISOString();
    await store.models.analyses.create({ takeId, engine, replacedAt, repetitions }, { transaction });
    await writeTake(store, after, transaction);
  });

/** The figures of earlier engines, newest first. */
export const earlierAnalyses = async ({ models }: Store, takeId: string): Promise<EarlierAnalysis[]> =>
  (await models.analyses.findAll({ where: { takeId }, order: [['id', 'DESC']] })).map((row) =>
    EarlierAnalysisSchema.parse(row.get({ plain: true })),
  );

/** A stored take with its repetitions and notes, or null. */
export const getTake = ({ models, read }: Store, id: string): Promise<Take | null> =>
  read(async (transaction) => {
    const row = (await models.takes.findByPk(id, { transaction }))?.get({ plain: true });
    if (!row) return null;
    const repetitions = await models.repetitions.findAll({
      where: { takeId: id },
      order: [['index', 'ASC']],
      transaction,
    });
    return TakeSchema.parse({
      ...row,
      hasRecording: (await models.recordings.findByPk(id, { transaction })) !== null,
      repetitions: repetitions.map((one) => toRepetition(one.get({ plain: true }))),
    });
  });

/** Stored takes without their notes, newest first; of one passage where it is named. */
export const listTakes = async ({ models }: Store, passageId?: string): Promise<TakeSummary[]> => {
  const rows = await models.takes.findAll({
    attributes: { exclude: ['drills'] },
    where: passageId ? { passageId } : {},
    order: [['startedAt', 'DESC']],
  });
  const recorded = new Set((await models.recordings.findAll()).map((row) => row.get('takeId')));
  return rows.map((row) => {
    const plain = row.get({ plain: true });
    return TakeSummarySchema.parse({ ...plain, hasRecording: recorded.has(plain.id) });
  });
};
