import { dailySummaryOf, summariseTake } from '@isochron/core/planning';
import { type Take, type TakeSummary, withPresentNames } from '@isochron/core/schema';
import { type QueryInterface, QueryTypes } from 'sequelize';

type Texts = Record<string, string | number | null>;
const read = <Value>(text: Texts[string] | undefined): Value => JSON.parse(String(text ?? 'null')) as Value;

/**
 * A correction by hand used to change its repetition, and not what followed from it: how the take closed, its weakest step, and where
 * its course begins next time. Takes that were corrected get what follows from them now. By today's rules and today's shape of a take:
 * whoever changes that shape keeps a copy of these here.
 */
export const corrections = {
  name: '0009-corrections',
  async up({ context: { sequelize } }: { context: QueryInterface }): Promise<void> {
    const select = (sql: string, replacements: unknown[] = []) =>
      sequelize.query<Texts>(sql, { replacements, type: QueryTypes.SELECT });
    const run = (sql: string, replacements: unknown[]) => sequelize.query(sql, { raw: true, replacements });
    const closings = new Map<string, TakeSummary>();
    const corrected = await select(
      `SELECT * FROM takes WHERE endedAt IS NOT NULL AND input <> 'log'
         AND id IN (SELECT takeId FROM repetitions WHERE edits IS NOT NULL AND edits <> 'null')`,
    );
    for (const row of corrected) {
      const rows = await select('SELECT * FROM repetitions WHERE takeId = ? ORDER BY "index"', [row.id]);
      const repetitions = rows.map(({ drill, tempo, bpm, downbeatS, notes, measures, outcome, reason, why, ease }) => ({
        drill,
        tempo: read(tempo),
        askedBpm: bpm,
        downbeatS,
        notes: read(notes),
        measures: read(measures),
        verdict: { outcome, reason, why: read(why) },
        ease,
      }));
      // The names are those of then; what is reckoned from them knows those of now, and the next migration those of both.
      const take = withPresentNames({ ...row, drills: read(row.drills), repetitions }) as Take;
      const closing = summariseTake(take, take.goalBpm, take.startBpm);
      const { weak, openClean } = dailySummaryOf(take);
      await run(`UPDATE takes SET closing = ?, weak = ?, openClean = ?, checksum = '' WHERE id = ?`, [
        JSON.stringify(closing),
        weak && JSON.stringify(weak),
        openClean,
        row.id,
      ]);
      if (closing) closings.set(String(row.id), closing);
    }
    for (const { id, document } of closings.size ? await select('SELECT id, document FROM courses') : []) {
      const course = read<{ last: Last; others?: Record<string, { last?: Last }> }>(document);
      let isChanged = false;
      for (const holder of [course, ...Object.values(course.others ?? {})]) {
        const closing = closings.get(holder.last?.takeId ?? '');
        if (!holder.last || !closing) continue;
        holder.last.closing = closing;
        isChanged = true;
      }
      if (isChanged) await run(`UPDATE courses SET document = ?, checksum = '' WHERE id = ?`, [JSON.stringify(course), id]);
    }
  },
};

type Last = { takeId: string; closing: TakeSummary } | null;
