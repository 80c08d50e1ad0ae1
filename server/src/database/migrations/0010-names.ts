import type { QueryInterface } from 'sequelize';

/** Names of fields in documents, before and then: of its own, since a migration stays as it ran. */
const FIELDS = [
  ['school', 'strategy'],
  ['schools', 'strategies'],
  ['schoolId', 'strategyId'],
  ['schoolOptions', 'strategyOptions'],
  ['course', 'config'],
  ['standing', 'snapshot'],
  ['closing', 'summary'],
  ['way', 'repetitionKind'],
  ['sure', 'confidence'],
  ['demand', 'toleranceUsage'],
  ['wobble', 'unsteadiness'],
  ['wobbleMs', 'unsteadinessMs'],
  ['doubledMs', 'doubleAttackMs'],
  ['leastRepetitions', 'minRepetitions'],
  ['alongLevel', 'playAlongLevel'],
] as const;

/** As they stand in the text of a document. No text within it can look so: its quotes are escaped. */
const textsOf = (fields: readonly (readonly [string, string])[]) =>
  fields.map(([before, now]) => [`"${before}":`, `"${now}":`] as const);
const TEXTS = [
  ...textsOf(FIELDS),
  // As a practice mode `along` keeps its name.
  ['"along":null', '"playAlong":null'] as const,
  ['"along":{"accompanimentId"', '"playAlong":{"accompanimentId"'] as const,
];
/** Notes are most of a database: only what they have is looked for in them. */
const TEXTS_OF_NOTES = textsOf(FIELDS.filter(([before]) => before === 'sure' || before === 'doubledMs'));

const DOCUMENTS: { table: string; columns: string[]; texts: readonly (readonly [string, string])[] }[] = [
  { table: 'settings', columns: ['document'], texts: TEXTS },
  { table: 'practiceConfigs', columns: ['document'], texts: TEXTS },
  { table: 'sessions', columns: ['document'], texts: TEXTS },
  { table: 'takes', columns: ['strategy', 'summary', 'drills', 'weak'], texts: TEXTS },
  { table: 'repetitions', columns: ['tempo', 'measures', 'why', 'decision'], texts: TEXTS },
  { table: 'repetitions', columns: ['notes', 'extras', 'edits'], texts: TEXTS_OF_NOTES },
  { table: 'analyses', columns: ['repetitions'], texts: TEXTS },
];

/**
 * One word for each thing, in what is stored as well: tables, columns, and fields of documents. Nothing else is changed. Rows get their
 * checksums anew at the next full check.
 */
export const names = {
  name: '0010-names',
  async up({ context: { sequelize } }: { context: QueryInterface }): Promise<void> {
    const run = (sql: string) => sequelize.query(sql, { raw: true });
    await run('ALTER TABLE courses RENAME TO practiceConfigs');
    await run('ALTER TABLE sittings RENAME TO sessions');
    for (const [before, now] of [
      ['sittingId', 'sessionId'],
      ['school', 'strategy'],
      ['closing', 'summary'],
      ['methodId', 'practiceMode'],
    ])
      await run(`ALTER TABLE takes RENAME COLUMN ${before} TO ${now}`);
    for (const { table, columns, texts } of DOCUMENTS) {
      const changes = columns.map((column) => {
        const changed = texts.reduce((sql, [before, now]) => `replace(${sql}, '${before}', '${now}')`, `"${column}"`);
        return `"${column}" = ${changed}`;
      });
      await run(`UPDATE ${table} SET ${changes.join(', ')}, checksum = ''`);
    }
  },
};
