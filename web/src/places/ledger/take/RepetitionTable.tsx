import { Box, Table } from '@chakra-ui/react';
import type { Repetition } from '@isochron/core';
import { bpm, figure, OUTCOME_WORDS, rangeWords, signed } from '../../../strip/words';
import { TableHead } from '../TableHead';

const cell = { paddingY: '6px', paddingX: '8px', fontSize: '16px', borderColor: 'rule', background: 'transparent' } as const;

/** A column: its name, and what stands in it. */
interface Column {
  name: string;
  of(repetition: Repetition): string | number;
}

const COLUMNS: readonly Column[] = [
  { name: 'No.', of: ({ index, edits }) => `${index + 1}${edits ? ' (edited)' : ''}` },
  { name: 'Tempo', of: ({ tempoBpm }) => bpm(tempoBpm) },
  { name: 'Verdict', of: ({ verdict }) => OUTCOME_WORDS[verdict.outcome] },
  { name: 'Reason', of: ({ verdict }) => verdict.sentence },
  { name: 'Accuracy', of: ({ measures }) => figure(measures.accuracyPct, '%', 0) },
  { name: 'Spread', of: ({ measures }) => `${figure(measures.spreadMs?.value, 'ms')}${rangeWords(measures.spreadMs)}` },
  {
    name: 'Unevenness',
    of: ({ measures }) => `${figure(measures.unevennessPct?.value, '%')}${rangeWords(measures.unevennessPct)}`,
  },
  { name: 'Drift', of: ({ measures }) => `${signed(measures.driftPct)}\u00a0%` },
  { name: 'Missed', of: ({ measures }) => measures.missed },
  { name: 'Extra', of: ({ measures }) => measures.extra },
  { name: 'Felt', of: ({ ease }) => ease ?? '–' },
  { name: 'Then', of: ({ decision }) => decision.reason },
];

/** Columns that only some inputs fill. */
const EXTRA_COLUMNS: readonly (Column & { isFilled(repetition: Repetition): boolean })[] = [
  {
    name: 'Wrong notes',
    of: ({ measures }) => measures.wrongNotes ?? 0,
    isFilled: ({ notes }) => notes.some((note) => note.pitch !== undefined || note.members !== undefined),
  },
  {
    name: 'Sounding',
    of: ({ measures }) => figure(measures.articulationPct, '%', 0),
    isFilled: ({ measures }) => typeof measures.articulationPct === 'number',
  },
  {
    name: 'Chord spread',
    of: ({ measures }) => figure(measures.chordSpreadMs, 'ms'),
    isFilled: ({ measures }) => typeof measures.chordSpreadMs === 'number',
  },
  {
    name: 'Right hand',
    of: ({ measures }) => figure(measures.rightHandMs, 'ms'),
    isFilled: ({ measures }) => typeof measures.rightHandMs === 'number',
  },
];

/** Every repetition of a take in figures. */
export const RepetitionTable = ({ repetitions }: { repetitions: readonly Repetition[] }) => {
  const extra = EXTRA_COLUMNS.filter((column) => repetitions.some(column.isFilled));
  const columns = [...COLUMNS.slice(0, -2), ...extra, ...COLUMNS.slice(-2)];
  return (
    <Box overflowX="auto" tabIndex={0} role="region" aria-label="Every repetition in figures">
      <Table.Root size="sm">
        <TableHead names={columns.map(({ name }) => name)} cell={cell} />
        <Table.Body>
          {repetitions.map((repetition) => (
            <Table.Row key={repetition.index} background="transparent">
              {columns.map(({ name, of }) => (
                <Table.Cell key={name} {...cell}>
                  {of(repetition)}
                </Table.Cell>
              ))}
            </Table.Row>
          ))}
        </Table.Body>
      </Table.Root>
    </Box>
  );
};
