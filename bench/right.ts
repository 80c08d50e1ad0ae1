/** `npm run bench:right`: whether figures, verdicts, findings and decisions are right, with players that nothing was tuned on; `--out docs/right.md` writes the page. */
import { writeFileSync } from 'node:fs';
import { parseArgs } from 'node:util';
import { curveTable } from './right/curve';
import { decisionTables } from './right/decisions';
import { findingTables } from './right/findings';
import { latencyTable } from './right/latency';
import { planTable } from './right/plans';
import { playedOtherwiseTables } from './right/played-otherwise';
import { sampledTables } from './right/sampled';
import { sentenceTable } from './right/sentences';
import { asMarkdown, type Table } from './right/table';
import { verdictSentenceTable } from './right/verdict-sentences';
import { verdictTables } from './right/verdicts';

const { values } = parseArgs({ options: { table: { type: 'string' }, times: { type: 'string' }, out: { type: 'string' } } });

const TABLES: Record<string, () => Table | readonly Table[]> = {
  latency: () => latencyTable(),
  otherwise: () => playedOtherwiseTables(),
  verdicts: () => verdictTables(),
  curve: () => curveTable(values.times ? Number(values.times) : undefined),
  decisions: () => decisionTables(values.times ? Number(values.times) : undefined),
  plans: () => planTable(),
  sentences: () => sentenceTable(values.times ? Number(values.times) : undefined),
  'verdict-sentences': () => verdictSentenceTable(values.times ? Number(values.times) : undefined),
  sampled: () => sampledTables(),
  findings: () => findingTables(values.times ? Number(values.times) : undefined),
};

const HEAD = `# Right for other players

Made by \`npm run bench:right\` with players that nothing was tuned on (\`bench/players\`): their own chance, other kinds of noise. How each
figure comes about is said above its table; what is not reached stands in it as it is.`;

const tables = Object.entries(TABLES)
  .filter(([name]) => !values.table || values.table === name)
  .flatMap(([, make]) => [make()].flat() as Table[]);
const text = `${[...(values.table ? [] : [HEAD]), ...tables.map(asMarkdown)].join('\n\n')}\n`;
if (values.out) writeFileSync(values.out, text);
else console.log(text);
