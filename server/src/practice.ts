import {
  API,
  dayAt,
  dayIndex,
  dayStartMs,
  nowMs,
  type Practice,
  type PracticeConfigKey,
  PracticeDaySchema,
  type PracticeQuery,
  PracticeSchema,
  type PracticeTotals,
  practiceConfigId,
} from '@isochron/core/schema';
import { QueryTypes } from 'sequelize';
import type { Store } from './database/open';
import { daySql } from './zone';

interface DayRow {
  open: string | null;
}

/** The opening of a day as it comes: the moment, then tempo and whether it was clean, so that the least is the first of the day. */
const openingOf = (open: string | null) => {
  const [, bpm, clean] = open?.split('|') ?? [];
  return { openBpm: bpm ? Number(bpm) : null, openClean: clean ? clean === '1' : null };
};

/**
 * What was practised on each day by the calendar of a zone, by configuration, in order of time; and for each configuration the newest weak spot among its takes of those days.
 * Counted from an index alone. A day that cannot be read hides only itself.
 */
export const practiceDays = ({ database, unreadable, read }: Store, query: PracticeQuery, zone: string): Promise<Practice> =>
  read(async (transaction) => {
    const { from, to, passageId } = query;
    const day = daySql(zone, 'startedAt', nowMs());
    const begins = from === undefined ? '' : new Date(dayStartMs(zone, from)).toISOString();
    const ends = to === undefined ? '' : new Date(dayStartMs(zone, dayAt(dayIndex(to) + 1))).toISOString();
    const replacements = { from: begins, to: ends, passageId: passageId ?? '' };
    const which = `startedAt >= :from${to === undefined ? '' : ' AND startedAt < :to'}${passageId ? ' AND passageId = :passageId' : ''} ${unreadable.exceptDamaged('id')}`;
    const options = { replacements, type: QueryTypes.SELECT, transaction } as const;
    const rows: DayRow[] = await database.query(
      `SELECT ${day} AS day, passageId, variantId, sectionId, COUNT(*) AS takes, SUM(repetitionCount) AS repetitions,
         SUM(cleanCount) AS clean, SUM(playedS) AS playedS, SUM(fastS) AS fastS,
         SUM(CASE WHEN withoutClick THEN playedS ELSE 0 END) AS withoutClickS,
         MIN(CASE WHEN openBpm IS NOT NULL THEN startedAt || '|' || openBpm || '|' || openClean END) AS open,
         MAX(CASE WHEN practiceMode = 'straight' THEN bestCleanBpm END) AS bestCleanBpm
       FROM takes INDEXED BY takes_practice WHERE ${which}
       GROUP BY day, passageId, variantId, sectionId ORDER BY day, passageId, variantId, sectionId`,
      options,
    );
    const days = rows.flatMap(
      ({ open, ...row }) =>
        unreadable.read('day', String((row as { day?: string }).day), PracticeDaySchema, { ...row, ...openingOf(open) }) ?? [],
    );
    const spots: { weak: string }[] = await database.query(
      `SELECT ${day} AS day, passageId, variantId, sectionId, weak FROM takes
       WHERE weak IS NOT NULL AND json_valid(weak) AND ${which} ORDER BY startedAt DESC LIMIT 400`,
      options,
    );
    const weak = spots.flatMap(
      ({ weak: spot, ...row }) =>
        unreadable.read('day', `${(row as { day?: string }).day}, its weak spot`, PracticeSchema.shape.weak.element, {
          ...row,
          spot: JSON.parse(spot),
        }) ?? [],
    );
    return {
      days,
      weak: query.every
        ? weak
        : weak.filter((one, k) => weak.findIndex((other) => practiceConfigId(other) === practiceConfigId(one)) === k),
    };
  });

/** All that a configuration was ever given, together. Counted from an index alone, in its order. */
export const practiceTotals = async (
  { database, unreadable }: Store,
  { passageId, variantId, sectionId }: PracticeConfigKey,
): Promise<PracticeTotals> => {
  const [sums] = await database.query(
    `SELECT COUNT(*) AS takes, COALESCE(SUM(repetitionCount), 0) AS repetitions, COALESCE(SUM(cleanCount), 0) AS clean,
       COALESCE(SUM(playedS), 0) AS playedS, COALESCE(SUM(fastS), 0) AS fastS
     FROM takes INDEXED BY takes_practice WHERE passageId = :passageId AND variantId = :variantId AND sectionId = :sectionId
       ${unreadable.exceptDamaged('id')}`,
    { replacements: { passageId, variantId, sectionId }, type: QueryTypes.SELECT },
  );
  return API.configTotals.parse(sums);
};
