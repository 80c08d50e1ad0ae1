import { Flex, Link, Text } from '@chakra-ui/react';
import type { TakeSummary } from '@isochron/core';
import { createColumnHelper } from '@tanstack/react-table';
import { useMemo, useState } from 'react';
import { Link as RouterLink } from 'react-router';
import { useCourses, usePassages, useTakes } from '../../api/queries';
import { DataTable } from '../../app/DataTable';
import { ChoiceField } from '../../app/fields';
import { Notice, PageTitle, Part } from '../../app/Page';
import { TempoHistory } from '../../charts/TempoHistory';
import { bpm } from '../../words';

const when = (iso: string): string =>
  new Date(iso).toLocaleString('en-GB', {
    day: 'numeric',
    month: 'short',
    year: 'numeric',
    hour: '2-digit',
    minute: '2-digit',
  });

const tempo = (value: number | null | undefined): string => (value === null || value === undefined ? '–' : bpm(value));

const column = createColumnHelper<TakeSummary>();
const COLUMNS = [
  column.accessor('startedAt', {
    header: 'When',
    cell: ({ row, getValue }) => (
      <Link asChild color="now" textDecoration="underline" whiteSpace="nowrap">
        <RouterLink to={`/ledger/${row.original.id}`}>{when(getValue())}</RouterLink>
      </Link>
    ),
  }),
  column.accessor('startBpm', { header: 'From', cell: ({ getValue }) => bpm(getValue()) }),
  column.accessor((take) => take.closing?.bestCleanBpm ?? null, {
    id: 'best',
    header: 'Best clean',
    cell: ({ getValue }) => (
      <Text as="span" fontFamily="heading" fontSize="19px">
        {tempo(getValue())}
      </Text>
    ),
  }),
  column.accessor((take) => take.closing?.closingBpm ?? null, {
    id: 'closed',
    header: 'Closed at',
    cell: ({ getValue }) => tempo(getValue()),
  }),
  column.accessor((take) => take.closing?.nextStartBpm ?? null, {
    id: 'next',
    header: 'Next start',
    cell: ({ getValue }) => tempo(getValue()),
  }),
  column.accessor('repetitionCount', {
    header: 'Repetitions',
    cell: ({ row: { original } }) => `${original.repetitionCount}, ${original.cleanCount} clean`,
  }),
  column.accessor('hasRecording', { header: 'Recording', cell: ({ getValue }) => (getValue() ? 'yes' : 'figures only') }),
];

const FILTERS = [
  { value: 'all', name: 'all takes' },
  { value: 'recorded', name: 'with a recording' },
  { value: 'clean', name: 'with a clean repetition' },
] as const;
type Filter = (typeof FILTERS)[number]['value'];

const PASSES: Record<Filter, (take: TakeSummary) => boolean> = {
  all: () => true,
  recorded: (take) => take.hasRecording,
  clean: (take) => take.cleanCount > 0,
};

/** The Ledger: the tempo history of a passage, and its takes. */
export const LedgerPlace = () => {
  const { passages, message } = usePassages();
  const { courses, isLoading } = useCourses();
  const [chosen, setChosen] = useState<string | null>(null);
  const [filter, setFilter] = useState<Filter>('all');
  const lastPlayed = [...courses].sort((a, b) => (b.last?.startedAt ?? '').localeCompare(a.last?.startedAt ?? ''))[0];
  const passageId = chosen ?? lastPlayed?.passageId ?? passages[0]?.id ?? '';
  const passage = passages.find((one) => one.id === passageId);
  const { takes, isLoading: isFetching } = useTakes(passageId || undefined);
  const shown = useMemo(() => takes.filter(PASSES[filter]), [takes, filter]);
  return (
    <>
      <PageTitle title="Ledger">
        What was played, and what it came to.{' '}
        <Link asChild color="now" textDecoration="underline">
          <RouterLink to="/ledger/measure-a-file">Measure a file from elsewhere</RouterLink>
        </Link>
      </PageTitle>
      <Notice>{message}</Notice>
      {!isLoading && courses.length === 0 && <Text>Nothing yet. The first take appears here by itself.</Text>}
      {passage && (
        <>
          <Flex gap="18px 34px" flexWrap="wrap">
            <ChoiceField
              label="Passage"
              value={passageId}
              choices={passages.map((one) => ({ value: one.id, name: one.title }))}
              onChange={setChosen}
            />
            <ChoiceField<Filter> label="Show" width="220px" value={filter} choices={FILTERS} onChange={setFilter} />
          </Flex>
          <Part title="Best clean tempo of each take">
            <TempoHistory takes={takes} goalBpm={takes[0]?.goalBpm ?? passage.goalBpm} title={passage.title} />
          </Part>
          <Part title={`Takes of ${passage.title}`}>
            <DataTable
              label={`Takes of ${passage.title}`}
              rows={shown}
              columns={COLUMNS}
              firstSorting={[{ id: 'startedAt', desc: true }]}
              empty={isFetching ? 'Fetching the takes …' : 'No take of this kind yet.'}
            />
          </Part>
        </>
      )}
    </>
  );
};
