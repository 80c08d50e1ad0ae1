import { Field, Flex, Input, Link, Text } from '@chakra-ui/react';
import { lastPlayedAt } from '@isochron/core/planning';
import type { TakeListItem, TakeQuery } from '@isochron/core/schema';
import { createColumnHelper } from '@tanstack/react-table';
import { useDeferredValue, useState } from 'react';
import { Link as RouterLink } from 'react-router';
import { usePassages } from '../../api/queries/passages';
import { useHistory, usePracticeConfigs } from '../../api/queries/practice';
import { ALL_PASSAGES, useTakes } from '../../api/queries/takes';
import { DataTable } from '../../app/DataTable';
import { ChoiceField } from '../../app/fields';
import { labelStyle } from '../../app/label-style';
import { Notice } from '../../app/Notice';
import { PageTitle, Part } from '../../app/Page';
import { useDates } from '../../app/use-dates';
import { TempoHistoryChart } from '../../charts/TempoHistoryChart';
import { bpm } from '../../words';
import { TakeOutPart } from './TakeOutPart';
import { TotalsPart } from './TotalsPart';

const When = ({ take }: { take: TakeListItem }) => {
  const { moment } = useDates();
  return (
    <Link asChild color="now" textDecoration="underline" whiteSpace="nowrap">
      <RouterLink to={`/ledger/${take.id}`}>{moment(take.startedAt)}</RouterLink>
    </Link>
  );
};

const tempo = (value: number | null | undefined): string => (value === null || value === undefined ? '–' : bpm(value));

const column = createColumnHelper<TakeListItem>();
const COLUMNS = [
  column.accessor('startedAt', {
    header: 'When',
    cell: ({ row }) => <When take={row.original} />,
  }),
  column.accessor('title', { header: 'Passage', enableSorting: false }),
  column.accessor('startBpm', { header: 'From', cell: ({ getValue }) => bpm(getValue()) }),
  column.accessor((take) => take.summary?.bestCleanBpm ?? null, {
    id: 'bestCleanBpm',
    header: 'Best clean',
    cell: ({ getValue }) => (
      <Text as="span" fontFamily="heading" fontSize="19px">
        {tempo(getValue())}
      </Text>
    ),
  }),
  column.accessor((take) => take.summary?.closingBpm ?? null, {
    id: 'closingBpm',
    header: 'Ended at',
    cell: ({ getValue }) => tempo(getValue()),
  }),
  column.accessor((take) => take.summary?.nextStartBpm ?? null, {
    id: 'nextStartBpm',
    header: 'Next time',
    cell: ({ getValue }) => tempo(getValue()),
  }),
  column.accessor('repetitionCount', {
    header: 'Repetitions',
    cell: ({ row: { original } }) => `${original.repetitionCount}, ${original.cleanCount} clean`,
  }),
  column.accessor('note', {
    header: 'Note',
    enableSorting: false,
    cell: ({ getValue }) => (
      <Text truncate maxWidth="220px">
        {getValue()}
      </Text>
    ),
  }),
  column.accessor('hasRecording', { header: 'Recording', cell: ({ getValue }) => (getValue() ? 'yes' : 'figures only') }),
];

type Show = TakeQuery['show'];
const FILTERS: readonly { value: Show; name: string }[] = [
  { value: 'all', name: 'all takes' },
  { value: 'recorded', name: 'with a recording' },
  { value: 'clean', name: 'with a clean repetition' },
  { value: 'noted', name: 'with a note' },
];

/** By what the takes are sorted, as the columns name it. */
interface Sorted {
  id: TakeQuery['sort'];
  desc: boolean;
}
const NEWEST_FIRST: Sorted = { id: 'startedAt', desc: true };

/** The Ledger: the tempo history of a passage, and its takes. */
export const LedgerPlace = () => {
  const { passages, message } = usePassages();
  const { practiceConfigs, isLoading } = usePracticeConfigs();
  const [chosen, setChosen] = useState<string | null>(null);
  const [show, setShow] = useState<Show>('all');
  const [sorted, setSorted] = useState(NEWEST_FIRST);
  const [text, setText] = useState('');
  const sought = useDeferredValue(text.trim());
  const lastPlayed = [...practiceConfigs].sort((a, b) => lastPlayedAt(b).localeCompare(lastPlayedAt(a)))[0];
  const passageId = chosen ?? lastPlayed?.passageId ?? passages[0]?.id ?? '';
  const passage = passages.find((one) => one.id === passageId);
  const order = sorted.desc ? 'desc' : 'asc';
  const {
    takes,
    total,
    more,
    isLoading: isFetching,
    message: trouble,
  } = useTakes({
    passageId: sought ? ALL_PASSAGES : passageId,
    show,
    text: sought,
    sort: sorted.id,
    order,
  });
  const history = useHistory(passageId);
  const goalBpm = practiceConfigs.find((one) => one.passageId === passageId)?.goalBpm ?? passage?.goalBpm ?? 0;
  return (
    <>
      <PageTitle title="Ledger">
        What was played, and what it came to.{' '}
        <Link asChild color="now" textDecoration="underline">
          <RouterLink to="/ledger/day">Day by day</RouterLink>
        </Link>{' '}
        <Link asChild color="now" textDecoration="underline">
          <RouterLink to="/ledger/measure-a-file">Measure a file from elsewhere</RouterLink>
        </Link>
      </PageTitle>
      <Notice>{message || trouble}</Notice>
      {!isLoading && practiceConfigs.length === 0 && <Text>Nothing yet. The first take appears here by itself.</Text>}
      {passage && (
        <>
          <Flex gap="18px 34px" flexWrap="wrap">
            <ChoiceField
              label="Passage"
              value={passageId}
              choices={passages.map((one) => ({ value: one.id, name: one.title }))}
              onChange={setChosen}
            />
            <Field.Root width="260px">
              <Field.Label {...labelStyle}>Search all takes</Field.Label>
              <Input
                type="search"
                value={text}
                maxLength={200}
                borderColor="quiet"
                borderRadius="control"
                placeholder="in titles and your notes"
                onChange={(event) => setText(event.target.value)}
              />
            </Field.Root>
            <ChoiceField<Show> label="Show" width="220px" value={show} choices={FILTERS} onChange={setShow} />
          </Flex>
          <Part title="Best clean tempo of each day">
            <TempoHistoryChart history={history} goalBpm={goalBpm} title={passage.title} />
            <Link asChild color="now" textDecoration="underline">
              <RouterLink to={`/ledger/tempo/${passageId}`}>
                Easy and edge tempo, goal, weeks, and what each tempo plan would have asked for
              </RouterLink>
            </Link>
          </Part>
          <TotalsPart />
          <Part title={`${total} ${total === 1 ? 'take' : 'takes'} ${sought ? `with “${sought}”` : `of ${passage.title}`}`}>
            <DataTable
              label={`Takes of ${passage.title}`}
              rows={takes}
              columns={COLUMNS}
              paged={{
                sorting: [sorted],
                onSort: ([first]) => setSorted((first as Sorted | undefined) ?? NEWEST_FIRST),
                total,
                onEnd: more,
              }}
              empty={isFetching ? 'Fetching the takes …' : 'No take of this kind yet.'}
            />
          </Part>
          <TakeOutPart passage={passage} passages={passages} />
        </>
      )}
    </>
  );
};
