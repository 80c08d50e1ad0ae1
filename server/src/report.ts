import { onsetsCsv } from '@isochron/core/material';
import { practiceCsv } from '@isochron/core/open-formats';
import { goalRange } from '@isochron/core/planning';
import { IdSchema, localDay, now, ownZone, PracticeQuerySchema, practiceConfigId } from '@isochron/core/schema';
import type { Store } from './database/open';
import { getPassage } from './passages';
import { practiceDays } from './practice';
import { listPracticeConfigs } from './practice-configs';
import { RequestError } from './request-error';
import { tempoHistory } from './take-lists';
import { getTake } from './takes';

/** In what a report is written. */
export type ReportFormat = 'json' | 'csv';

const json = (document: unknown): string => `${JSON.stringify(document, null, 2)}\n`;

const takeReport = async (store: Store, id: string, format: ReportFormat): Promise<string> => {
  const take = await getTake(store, id);
  if (!take) throw new RequestError(404, `There is no take ${id} here.`);
  return format === 'json' ? json(take) : onsetsCsv(take.repetitions);
};

const passageReport = async (store: Store, id: string, format: ReportFormat): Promise<string> => {
  const passage = await getPassage(store, id);
  if (!passage) throw new RequestError(404, `There is neither a take nor a passage “${id}” here.`);
  const zone = ownZone();
  const practice = await practiceDays(store, PracticeQuerySchema.parse({ passageId: id, every: 'true' }), zone);
  if (format === 'csv') return practiceCsv(practice.days, () => passage.title);
  const practiceConfigs = (await listPracticeConfigs(store)).filter(({ passageId }) => passageId === id);
  const history = await tempoHistory(store, id, zone);
  const today = localDay(now());
  const goals = practiceConfigs.map((config) => ({
    config: practiceConfigId(config),
    goalBpm: config.goalBpm,
    ...goalRange(history, config.goalBpm, today),
  }));
  return json({ id, title: passage.title, goals, ...practice, history });
};

/** What is known of a take or of a passage, by its id: as JSON all of it, as CSV the notes of the take or the days of the passage. Throws a RequestError where there is none. */
export const report = (store: Store, id: string, format: ReportFormat): Promise<string> =>
  IdSchema.safeParse(id).success ? takeReport(store, id, format) : passageReport(store, id, format);
