import {
  API,
  dayAt,
  dayIndex,
  dayStartMs,
  nowMs,
  ownZone,
  type PassageRepetitions,
  type TakeListItem,
  TakeListItemSchema,
  type TakeQuery,
  type TempoHistory,
} from '@isochron/core/schema';
import { col, Op, QueryTypes, type Transaction, type WhereOptions } from 'sequelize';
import type { Store } from './database/open';
import { isIntact } from './database/seal';
import { takeName } from './database/unreadable';
import { dayNumberSql } from './zone';

const SHOWN: Record<TakeQuery['show'], WhereOptions> = {
  all: {},
  recorded: { hasRecording: true },
  clean: { cleanCount: { [Op.gt]: 0 } },
  noted: { note: { [Op.ne]: '' } },
};

/** The titles that takes have and that hold a text, each once: looked up in the index of titles from one to the next. */
const titlesWith = async ({ database }: Store, like: string, transaction: Transaction): Promise<string[]> => {
  const rows: { title: string }[] = await database.query(
    `WITH RECURSIVE titles (title) AS (
       SELECT MIN(title) FROM takes UNION ALL
       SELECT (SELECT MIN(title) FROM takes WHERE title > titles.title) FROM titles WHERE title IS NOT NULL
     ) SELECT title FROM titles WHERE title LIKE :like ESCAPE '\\'`,
    { replacements: { like }, type: QueryTypes.SELECT, transaction },
  );
  return rows.map(({ title }) => title);
};

/**
 * Takes whose title or note has a text in it. Titles are few and notes are rare: both are found by their indexes, and not by reading every
 * take.
 */
const said = async (store: Store, text: string, transaction: Transaction): Promise<WhereOptions> => {
  if (text === '') return {};
  const like = `%${text.replace(/[\\%_]/g, '\\$&')}%`;
  const titles = await titlesWith(store, like, transaction);
  const noted: { id: string }[] = await store.database.query(
    `SELECT id FROM takes WHERE note <> '' AND note LIKE :like ESCAPE '\\'`,
    { replacements: { like }, type: QueryTypes.SELECT, transaction },
  );
  const either = [...(titles.length ? [{ title: titles }] : []), ...(noted.length ? [{ id: noted.map(({ id }) => id) }] : [])];
  return either.length ? { [Op.or]: either } : { id: null };
};

/** Takes of some days by the calendar of a zone, the last one whole. */
const between = (from: string | undefined, to: string | undefined, zone: string): WhereOptions => {
  const begins = (day: string) => new Date(dayStartMs(zone, day)).toISOString();
  const parts = {
    ...(from ? { [Op.gte]: begins(from) } : {}),
    ...(to ? { [Op.lt]: begins(dayAt(dayIndex(to) + 1)) } : {}),
  };
  return from || to ? { startedAt: parts } : {};
};

/** A page of stored takes without their notes, and how many there are in all. One that cannot be read hides only itself. */
export const listTakes = (
  store: Store,
  query: TakeQuery,
  zone = ownZone(),
): Promise<{ takes: TakeListItem[]; total: number }> =>
  store.read(async (transaction) => {
    const { models, unreadable } = store;
    const { passageId, show, text, from, to, sort, order, limit, offset } = query;
    const where = {
      ...(passageId ? { passageId } : {}),
      ...SHOWN[show],
      ...(await said(store, text, transaction)),
      ...between(from, to, zone),
    };
    const total = await models.takes.count({ where, transaction });
    const rows = await models.takes.findAll({
      where,
      // What lists sort by may be read out of a document, and is no attribute of the model then.
      order: [
        [col(sort), order],
        ['id', order],
      ],
      limit,
      offset,
      transaction,
    });
    const takes = rows.flatMap((row) => {
      const isWhole = isIntact(row);
      // Read for their checksum only; what they say is in no list.
      for (const name of ['drills', 'gaps', 'weak'] as const) row.setDataValue(name, null as never);
      const plain = row.get({ plain: true });
      return (
        unreadable.read('take', takeName(plain.title, plain.startedAt), TakeListItemSchema, isWhole && plain, plain.id) ?? []
      );
    });
    return { takes, total };
  });

/** The best clean tempo of each day on which a passage had one, in order. Read from its index alone, whatever the planner thinks. */
export const tempoHistory = async ({ database, unreadable }: Store, passageId: string, zone: string): Promise<TempoHistory> =>
  API.history.parse(
    await database.query(
      `SELECT date(number * 86400, 'unixepoch') AS day, bestCleanBpm, startBpm FROM (
         SELECT ${dayNumberSql(zone, 'startedAt', nowMs())} AS number, MAX(bestCleanBpm) AS bestCleanBpm, MIN(startBpm) AS startBpm
         FROM takes INDEXED BY takes_history WHERE passageId = ? AND practiceMode = 'straight' AND bestCleanBpm IS NOT NULL
           ${unreadable.exceptDamaged('id')} GROUP BY number
       ) ORDER BY number`,
      { replacements: [passageId], type: QueryTypes.SELECT },
    ),
  );

/** What of a repetition, joined to its take, the tempo curve is made of. */
export const REPETITION_COLUMNS = `repetitions.bpm, repetitions.outcome, json_extract(repetitions.measures, '$.toleranceUsage') AS toleranceUsage,
  json_array_length(repetitions.notes) AS notes,
  CASE WHEN repetitions.drill > 0 THEN json_extract(takes.drills, '$[' || repetitions.drill || '].repetitionKind') END AS repetitionKind,
  json_extract(repetitions.measures, '$.breakBpm.value') AS breakBpm,
  json_extract(repetitions.measures, '$.breakBpm.low') AS breakLow,
  json_extract(repetitions.measures, '$.breakBpm.high') AS breakHigh`;

/** Which repetitions count for it: those of the first drill, and what a strategy asked for besides, as far as they can be read. */
export const COUNTS_FOR_CURVE = `json_valid(takes.drills) AND json_valid(repetitions.measures) AND json_valid(repetitions.notes)
  AND (repetitions.drill = 0 OR repetitionKind IS NOT NULL)`;

/** So many repetitions at most are looked at: older ones tell nothing any more. */
const MAX_REPETITIONS = 600;

/** The newest repetitions of a passage that were played straight (the first drill), without their notes, and the sweeps and bursts among them, in order of time. */
export const passageRepetitions = async ({ database, unreadable }: Store, passageId: string): Promise<PassageRepetitions> => {
  const rows: { takeId: string }[] = await database.query(
    `SELECT takes.id AS takeId, takes.startedAt, takes.variantId, takes.sectionId, takes.startBpm,
       repetitions.ease, ${REPETITION_COLUMNS}
     FROM takes JOIN repetitions ON repetitions.takeId = takes.id
     WHERE takes.passageId = ? AND takes.practiceMode = 'straight'
       AND ${COUNTS_FOR_CURVE} ${unreadable.exceptDamaged('takes.id')}
     ORDER BY takes.startedAt DESC, repetitions."index" DESC LIMIT ${MAX_REPETITIONS}`,
    { replacements: [passageId], type: QueryTypes.SELECT },
  );
  // One that cannot be read hides only itself.
  return rows.flatMap((row) => unreadable.read('repetition', row.takeId, API.passageRepetitions.element, row) ?? []).reverse();
};
