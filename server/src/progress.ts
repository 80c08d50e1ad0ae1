import { API, now, type ProgressQuery, type ProgressTries, periodDaysFor } from '@isochron/core';
import { QueryTypes } from 'sequelize';
import type { Store } from './database/open';
import { IS_TRY, TRY_COLUMNS } from './takes';

/** Of each stretch of days the newest takes tell, so many of them. */
const TAKES_A_PERIOD = 6;

/**
 * Repetitions of a part of a passage over its history, by stretches of days: all of it where no days are asked for. Which takes are looked
 * at is read from their index; only of those the repetitions.
 */
export const passageProgress = async (store: Store, passageId: string, query: ProgressQuery): Promise<ProgressTries> => {
  const { database, unreadable } = store;
  const { variantId, sectionId } = query;
  const asked = { passageId, variantId, sectionId };
  const select = <Row extends object>(sql: string, more: object = {}) =>
    database.query<Row>(sql, { replacements: { ...asked, ...more }, type: QueryTypes.SELECT });
  const own = 'passageId = :passageId AND variantId = :variantId AND sectionId = :sectionId';
  // Each end by itself is read from the end of the index; both in one question would be read through all of it.
  const [span] = await select<{ first: string | null; last: string | null }>(
    `SELECT (SELECT substr(MIN(startedAt), 1, 10) FROM takes WHERE ${own}) AS first,
       (SELECT substr(MAX(startedAt), 1, 10) FROM takes WHERE ${own}) AS last`,
  );
  const today = now().toISOString().slice(0, 10);
  const from = query.from ?? span?.first ?? today;
  const to = [query.to ?? span?.last ?? today, from].sort().at(-1) as string;
  const periodDays = periodDaysFor(from, to);
  const rows = await select<{ takeId: string }>(
    `WITH RECURSIVE periods (period, begins) AS (
       SELECT 0, :from UNION ALL
       SELECT period + 1, date(begins, :step) FROM periods WHERE date(begins, :step) <= :to
     ), chosen AS (
       SELECT periods.period, takes.id, takes.startedAt FROM periods JOIN takes ON takes.id IN (
         SELECT id FROM takes INDEXED BY takes_course
         WHERE ${own} AND methodId = 'straight' AND startedAt >= begins AND startedAt < date(MIN(date(begins, :step, '-1 day'), :to), '+1 day')
         ORDER BY startedAt DESC LIMIT ${TAKES_A_PERIOD})
     )
     SELECT takes.id AS takeId, chosen.period, ${TRY_COLUMNS},
       json_extract(repetitions.measures, '$.spreadMs.value') AS spreadMs
     FROM chosen JOIN takes ON takes.id = chosen.id JOIN repetitions ON repetitions.takeId = chosen.id
     WHERE ${IS_TRY} ${unreadable.exceptDamaged('takes.id')}
     ORDER BY chosen.startedAt, repetitions."index"`,
    { from, to, step: `+${periodDays} days` },
  );
  // One that cannot be read hides only itself.
  const tries = rows.flatMap((row) => unreadable.read('repetition', row.takeId, API.progress.shape.tries.element, row) ?? []);
  return { from, to, periodDays, tries };
};
