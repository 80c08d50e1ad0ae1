import { headlineBpm } from '@isochron/core/material';
import { afterCorrection, afterTake } from '@isochron/core/planning';
import {
  type Correction,
  type EarlierAnalysis,
  EarlierAnalysisSchema,
  now,
  type Repetition,
  RepetitionSchema,
  type Take,
  TakeSchema,
} from '@isochron/core/schema';
import { deriveTake, figuresOf, withRepetition } from '@isochron/core/strategy';
import { Op, type Transaction } from 'sequelize';
import type { RepetitionRow, TakeRow } from './database/models';
import type { Store } from './database/open';
import { isIntact } from './database/seal';
import { takeName } from './database/unreadable';
import { noteTake } from './practice-configs';
import { RequestError } from './request-error';

/** What is said where something was stored meanwhile that the sender did not know of. Its status tells it from other refusals. */
const CHANGED_STATUS = 412;
const changed = () =>
  new RequestError(
    CHANGED_STATUS,
    'This take was changed elsewhere meanwhile. It is shown as it is now; make the change again.',
  );

const toTakeRow = (take: Take): TakeRow => {
  const { repetitions: _, hasRecording: __, note: ___, ...row } = take;
  return { ...row, ...figuresOf(take) };
};

const toRepetitionRow = (takeId: string, repetition: Repetition): RepetitionRow => {
  const { verdict, edits = null, ...rest } = repetition;
  return { takeId, ...rest, bpm: repetition.askedBpm ?? headlineBpm(repetition.tempo), ...verdict, edits };
};

const fromRepetitionRow = ({ outcome, reason, why, edits, bpm, ...row }: RepetitionRow) => ({
  ...row,
  // The tempo that a repetition is named by is stored; that it was asked for another one than it was played at follows from it.
  ...(bpm === headlineBpm(row.tempo) ? {} : { askedBpm: bpm }),
  edits: edits ?? undefined,
  verdict: { outcome, reason, why },
});

/** The revision of a take that is stored, 0 where none is. */
const storedRevision = async ({ models }: Store, id: string, transaction: Transaction): Promise<number> =>
  ((await models.takes.findByPk(id, { attributes: ['revision'], transaction }))?.get('revision') as number | undefined) ?? 0;

/**
 * Stores a take in place of the revision that it says it changes (0: none yet), and what it leaves for its configuration. What follows from
 * what was measured is derived here, whatever the sender says of it. All or nothing. Repetitions keep their rows; those after its last
 * one go. Gives back the new revision. Throws a RequestError (412) where another revision is stored.
 */
export const putTake = (store: Store, take: Take): Promise<number> =>
  store.write((transaction) => writeTake(store, take, transaction, afterTake));

/** The same for a take whose figures did not follow from it, and which was not played just now. */
export const rewriteTake = (store: Store, take: Take): Promise<number> =>
  store.write((transaction) => writeTake(store, take, transaction, afterCorrection));

const writeTake = async (store: Store, sent: Take, transaction: Transaction, after: typeof afterTake): Promise<number> => {
  const { models } = store;
  if ((await storedRevision(store, sent.id, transaction)) !== sent.revision) throw changed();
  const take = deriveTake(sent);
  const revision = take.revision + 1;
  await models.takes.upsert({ ...toTakeRow(take), revision }, { transaction });
  for (const repetition of take.repetitions)
    await models.repetitions.upsert(toRepetitionRow(take.id, repetition), { transaction });
  const end = (take.repetitions.at(-1)?.index ?? -1) + 1;
  await models.repetitions.destroy({ where: { takeId: take.id, index: { [Op.gte]: end } }, transaction });
  await noteTake(store, take, transaction, after);
  return revision;
};

/**
 * Stores one repetition of a take, corrected by hand, and what follows from it for the take and its configuration; no other repetition is
 * touched. Gives back the take's new revision. Throws a RequestError where there is no such repetition, or another revision is stored.
 */
export const putRepetition = (store: Store, takeId: string, { takeRevision, repetition }: Correction): Promise<number> =>
  store.write(async (transaction) => {
    const { models } = store;
    const { index } = repetition;
    const before = (await takeIn(store, takeId, transaction))?.take;
    const at = before?.repetitions.findIndex((one) => one.index === index) ?? -1;
    if (!before || at < 0) throw new RequestError(404, 'There is no such repetition in this take.');
    if (before.revision !== takeRevision) throw changed();
    if (repetition.drill >= before.drills.length)
      throw new RequestError(400, 'The repetition refers to a drill that its take does not have.');
    const take = withRepetition(before, repetition);
    const { takeId: _, index: __, ...columns } = toRepetitionRow(takeId, take.repetitions[at] as Repetition);
    await models.repetitions.update(columns, { where: { takeId, index }, transaction });
    const revision = takeRevision + 1;
    await models.takes.update({ summary: take.summary, ...figuresOf(take), revision }, { where: { id: takeId }, transaction });
    await noteTake(store, take, transaction, afterCorrection);
    return revision;
  });

/** Writes the player's own words about a take. Throws a RequestError where there is no such take. */
export const putNote = (store: Store, takeId: string, note: string): Promise<void> =>
  store.write(async (transaction) => {
    const [count] = await store.models.takes.update({ note }, { where: { id: takeId }, transaction });
    if (count === 0) throw new RequestError(404, 'There is no such take.');
  });

/**
 * Puts a take's new figures in the place of the old ones, which are kept with the version of the engine that made them. False, and
 * nothing done, where the take was changed since it was read.
 */
export const replaceAnalysis = (store: Store, before: Take, after: Take): Promise<boolean> =>
  store.write(async (transaction) => {
    const { id: takeId, engine, repetitions, revision } = before;
    if ((await storedRevision(store, takeId, transaction)) !== revision) return false;
    const replacedAt = now().toISOString();
    await store.models.analyses.create({ takeId, engine, replacedAt, repetitions }, { transaction });
    await writeTake(store, { ...after, revision }, transaction, afterCorrection);
    return true;
  });

/** The figures of earlier engines, newest first. */
export const earlierAnalyses = async ({ models, unreadable }: Store, takeId: string): Promise<EarlierAnalysis[]> =>
  (await models.analyses.findAll({ where: { takeId }, order: [['id', 'DESC']] })).flatMap((row) => {
    const plain = row.get({ plain: true });
    const name = `${takeId}, engine ${plain.engine}`;
    return unreadable.read('earlier analysis', name, EarlierAnalysisSchema, isIntact(row) && plain) ?? [];
  });

/** A stored take, and how many of its repetitions cannot be read and are left out of it. */
export interface ReadTake {
  take: Take;
  leftOut: number;
}

/** A stored take with its repetitions and notes, or null. Throws a RequestError (422) where it cannot be read. */
export const readTake = (store: Store, id: string): Promise<ReadTake | null> =>
  store.read((transaction) => takeIn(store, id, transaction));

const takeIn = async ({ models, unreadable }: Store, id: string, transaction: Transaction): Promise<ReadTake | null> => {
  const stored = await models.takes.findByPk(id, { transaction });
  const row = stored?.get({ plain: true });
  if (!stored || !row) return null;
  const rows = await models.repetitions.findAll({ where: { takeId: id }, order: [['index', 'ASC']], transaction });
  const repetitions = rows.flatMap((one) => {
    const plain = one.get({ plain: true });
    const name = `${plain.index + 1} of ${takeName(row.title, row.startedAt)}`;
    return (
      unreadable.read(
        'repetition',
        name,
        RepetitionSchema,
        isIntact(one) && fromRepetitionRow(plain),
        `${id}/${plain.index}`,
      ) ?? []
    );
  });
  const name = takeName(row.title, row.startedAt);
  const take = unreadable.read('take', name, TakeSchema, isIntact(stored) && { ...row, repetitions }, id);
  if (!take) throw new RequestError(422, 'This take cannot be read. What is stored of it is left as it is.');
  return { take, leftOut: rows.length - repetitions.length };
};

/** A stored take with its repetitions and notes, or null. */
export const getTake = async (store: Store, id: string): Promise<Take | null> => (await readTake(store, id))?.take ?? null;
