import {
  API,
  dayAt,
  dayIndex,
  dayInZone,
  dayStartMs,
  nowMs,
  type ProgressQuery,
  type ProgressRepetitions,
} from '@isochron/core/schema';
import { periodDaysFor } from '@isochron/core/strategy';
import { QueryTypes } from 'sequelize';
import type { Store } from './database/open';
import { COUNTS_FOR_CURVE, REPETITION_COLUMNS } from './take-lists';

/** Of each stretch of days the newest takes tell, so many of them. */
const TAKES_A_PERIOD = 6;

/**
 * Repetitions of a part of a passage over its history, by stretches of days: all of it where no days are asked for. Which takes are looked
 * at is read from their index; only of those the repetitions.
 */
export const passageProgress = async (
  store: Store,
  passageId: string,
  query: ProgressQuery,
  zone: string,
): Promise<ProgressRepetitions> => {
  const { database, unreadable } = store;
  const { variantId, sectionId } = query;
  const asked = { passageId, variantId, sectionId };
  const select = <Row extends object>(sql: string, more: object = {}) =>
    database.query<Row>(sql, { replacements: { ...asked, ...more }, type: QueryTypes.SELECT });
  const own = 'passageId = :passageId AND variantId = :variantId AND sectionId = :sectionId';
  // Each end by itself is read from the end of the index; both in one question would be read through all of it.
  const [span] = await select<{ first: string | null; last: string | null }>(
    `SELECT (SELECT MIN(startedAt) FROM takes WHERE ${own}) AS first, (SELECT MAX(startedAt) FROM takes WHERE ${own}) AS last`,
  );
  const dayOf = (moment: string | null | undefined) => dayInZone(zone, moment ? Date.parse(moment) : nowMs());
  const from = query.from ?? dayOf(span?.first);
  const to = [query.to ?? dayOf(span?.last), from].sort().at(-1) as string;
  const periodDays = periodDaysFor(from, to);
  const begins = (index: number) => new Date(dayStartMs(zone, dayAt(index))).toISOString();
  const end = dayIndex(to) + 1;
  const periods = Array.from({ length: Math.ceil((end - dayIndex(from)) / periodDays) }, (_, period) => {
    const first = dayIndex(from) + period * periodDays;
    return `(${period}, '${begins(first)}', '${begins(Math.min(end, first + periodDays))}')`;
  });
  const rows = await select<{ takeId: string }>(
    `WITH periods (period, begins, ends) AS (VALUES ${periods.join()}), chosen AS (
       SELECT periods.period, takes.id, takes.startedAt FROM periods JOIN takes ON takes.id IN (
         SELECT id FROM takes INDEXED BY takes_course
         WHERE ${own} AND practiceMode = 'straight' AND startedAt >= begins AND startedAt < ends
         ORDER BY startedAt DESC LIMIT ${TAKES_A_PERIOD})
     )
     SELECT takes.id AS takeId, chosen.period, ${REPETITION_COLUMNS},
       json_extract(repetitions.measures, '$.spreadMs.value') AS spreadMs
     FROM chosen JOIN takes ON takes.id = chosen.id JOIN repetitions ON repetitions.takeId = chosen.id
     WHERE ${COUNTS_FOR_CURVE} ${unreadable.exceptDamaged('takes.id')}
     ORDER BY chosen.startedAt, repetitions."index"`,
  );
  // One that cannot be read hides only itself.
  const repetitions = rows.flatMap(
    (row) => unreadable.read('repetition', row.takeId, API.progress.shape.repetitions.element, row) ?? [],
  );
  return { from, to, periodDays, repetitions };
};
