/** `npm run bench:right`: whether figures, verdicts, findings and decisions are right, with players that nothing was tuned on. */
import { parseArgs } from 'node:util';
import { findingTables } from './right/findings';
import { latencyTable } from './right/latency';
import { playedOtherwiseTables } from './right/played-otherwise';
import { asMarkdown, type Table } from './right/table';
import { verdictTables } from './right/verdicts';

const { values } = parseArgs({ options: { table: { type: 'string' }, times: { type: 'string' } } });

const TABLES: Record<string, () => Table | readonly Table[]> = {
  latency: () => latencyTable(),
  otherwise: () => playedOtherwiseTables(),
  verdicts: () => verdictTables(),
  findings: () => findingTables(values.times ? Number(values.times) : undefined),
};

for (const [name, make] of Object.entries(TABLES)) {
  if (values.table && values.table !== name) continue;
  for (const table of [make()].flat()) console.log(`${asMarkdown(table as Table)}\n`);
}
