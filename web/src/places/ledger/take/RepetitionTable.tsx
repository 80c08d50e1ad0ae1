import type { Estimate } from '@isochron/core/analysis';
import { headlineBpm } from '@isochron/core/material';
import type { Reason, Repetition } from '@isochron/core/schema';
import { verdictWord } from '@isochron/core/words';
import { createColumnHelper } from '@tanstack/react-table';
import { useMemo } from 'react';
import { DataTable } from '../../../app/DataTable';
import { useDescribe } from '../../../app/use-describe';
import { estimateWords, figure, rangeWords, signed, tempoWords } from '../../../words';

const column = createColumnHelper<Repetition>();

const measured = (estimate: Estimate | null, unit: string): string => `${estimateWords(estimate, unit)}${rangeWords(estimate)}`;

/** Every column, with those that only some inputs fill: a column that nothing fills is left out. */
const columnsFor = (repetitions: readonly Repetition[], say: (why: Reason) => string) => {
  const some = (isFilled: (repetition: Repetition) => boolean) => repetitions.some(isFilled);
  return [
    column.accessor('index', {
      header: 'No.',
      cell: ({ row: { original } }) => `${original.index + 1}${original.edits ? ' (edited)' : ''}`,
    }),
    column.accessor(({ tempo }) => headlineBpm(tempo), {
      id: 'tempo',
      header: 'Tempo',
      cell: ({ row }) => tempoWords(row.original.tempo),
    }),
    column.accessor(verdictWord, { id: 'verdict', header: 'Verdict' }),
    column.accessor(({ verdict }) => say(verdict.why), { id: 'reason', header: 'Reason', enableSorting: false }),
    column.accessor(({ measures }) => measures.accuracyPct, {
      id: 'accuracy',
      header: 'Accuracy',
      cell: ({ getValue }) => figure(getValue(), '%', 0),
    }),
    column.accessor(({ measures }) => measures.spreadMs?.value ?? null, {
      id: 'spread',
      header: 'Spread',
      cell: ({ row }) => measured(row.original.measures.spreadMs, 'ms'),
    }),
    column.accessor(({ measures }) => measures.unevennessPct?.value ?? null, {
      id: 'unevenness',
      header: 'Unevenness',
      cell: ({ row }) => measured(row.original.measures.unevennessPct, '%'),
    }),
    column.accessor(({ measures }) => measures.driftPct, {
      id: 'drift',
      header: 'Drift',
      cell: ({ getValue }) => `${signed(getValue())}\u00a0%`,
    }),
    column.accessor(({ measures }) => measures.missed, { id: 'missed', header: 'Missed' }),
    column.accessor(({ measures }) => measures.extra, { id: 'extra', header: 'Extra' }),
    ...(some(({ notes }) => notes.some((note) => note.pitch !== undefined || note.members !== undefined))
      ? [column.accessor(({ measures }) => measures.wrongNotes ?? 0, { id: 'wrong', header: 'Wrong notes' })]
      : []),
    ...(some(({ measures }) => Boolean(measures.swing))
      ? [
          column.accessor(({ measures }) => measures.swing?.value ?? null, {
            id: 'swing',
            header: 'Swing',
            cell: ({ row: { original } }) => measured(original.measures.swing ?? null, 'to 1'),
          }),
        ]
      : []),
    ...(some(({ measures }) => typeof measures.articulationPct === 'number')
      ? [
          column.accessor(({ measures }) => measures.articulationPct, {
            id: 'sounding',
            header: 'Sounding',
            cell: ({ getValue }) => figure(getValue(), '%', 0),
          }),
        ]
      : []),
    ...(some(({ measures }) => typeof measures.chordSpreadMs === 'number')
      ? [
          column.accessor(({ measures }) => measures.chordSpreadMs, {
            id: 'chords',
            header: 'Chord spread',
            cell: ({ getValue }) => figure(getValue(), 'ms'),
          }),
        ]
      : []),
    ...(some(({ measures }) => typeof measures.rightHandMs === 'number')
      ? [
          column.accessor(({ measures }) => measures.rightHandMs, {
            id: 'right',
            header: 'Right hand',
            cell: ({ getValue }) => figure(getValue(), 'ms'),
          }),
        ]
      : []),
    column.accessor(({ ease }) => ease ?? '–', { id: 'felt', header: 'Felt' }),
    column.accessor(({ decision }) => say(decision.why), { id: 'then', header: 'Then', enableSorting: false }),
  ];
};

/** Every repetition of a take in figures. */
export const RepetitionTable = ({ repetitions }: { repetitions: readonly Repetition[] }) => {
  const say = useDescribe();
  const columns = useMemo(() => columnsFor(repetitions, say), [repetitions, say]);
  return <DataTable label="Every repetition in figures" rows={repetitions} columns={columns} />;
};
