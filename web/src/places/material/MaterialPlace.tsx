import { Box, Field, Flex, Input, Link, Text } from '@chakra-ui/react';
import {
  forItsPart,
  instrumentOf,
  LIBRARY_ORDERS,
  type LibraryEntry,
  type LibraryOrder,
  libraryEntries,
  searchLibrary,
} from '@isochron/core/material';
import type { ScorePart } from '@isochron/core/score';
import { createColumnHelper } from '@tanstack/react-table';
import { useMemo, useRef, useState } from 'react';
import { Link as RouterLink, useNavigate } from 'react-router';
import { useLibrary, useNotebook, usePassageWriter } from '../../api/queries/passages';
import { usePracticeConfigs } from '../../api/queries/practice';
import { useSettings } from '../../api/settings';
import { Action } from '../../app/Action';
import { DataTable } from '../../app/DataTable';
import { ChoiceField } from '../../app/fields';
import { labelStyle } from '../../app/label-style';
import { Notice } from '../../app/Notice';
import { PageTitle } from '../../app/Page';
import { playerMessage } from '../../app/report-error';
import { useDates } from '../../app/use-dates';
import { usePageKeys } from '../../app/use-page-keys';
import { bpm } from '../../words';
import { readScoreFile } from '../../workers/read-score-file';
import { ChoosePart } from './ChoosePart';
import { newPassageId } from './new-id';

const column = createColumnHelper<LibraryEntry>();
const ALL_TAGS = '';

const useColumns = () => {
  const { day } = useDates();
  return useMemo(
    () => [
      column.accessor(({ passage }) => passage.title, {
        id: 'title',
        header: 'Title',
        enableSorting: false,
        cell: ({ row: { original } }) => (
          <Link asChild color="ink" textDecoration="underline" textDecorationColor="quiet" fontFamily="heading" fontSize="18px">
            <RouterLink to={`/material/${original.passage.id}`}>{original.passage.title}</RouterLink>
          </Link>
        ),
      }),
      column.accessor(({ passage }) => passage.tags.join(', '), { id: 'tags', header: 'Tags', enableSorting: false }),
      column.accessor(({ passage: { bars, noteCount } }) => `${bars} ${bars === 1 ? 'bar' : 'bars'}, ${noteCount} notes`, {
        id: 'size',
        header: 'Size',
        enableSorting: false,
      }),
      column.accessor(({ playedAt }) => (playedAt ? day(playedAt) : 'not yet'), {
        id: 'played',
        header: 'Played',
        enableSorting: false,
      }),
      column.accessor(({ cleanBpm, goalBpm }) => `${cleanBpm === null ? '–' : bpm(cleanBpm)} of ${bpm(goalBpm)}`, {
        id: 'clean',
        header: 'Best clean / goal',
        enableSorting: false,
      }),
      column.accessor(({ edgeBpm }) => (edgeBpm === null ? '–' : bpm(edgeBpm)), {
        id: 'edge',
        header: 'Limit',
        enableSorting: false,
      }),
      column.display({
        id: 'practise',
        header: 'Bench',
        cell: ({ row: { original } }) => (
          <Link asChild color="now" textDecoration="underline">
            <RouterLink to={`/bench/${original.passage.id}`} aria-label={`Practise ${original.passage.title}`}>
              practise
            </RouterLink>
          </Link>
        ),
      }),
    ],
    [day],
  );
};

/** Material: the library of passages, searched, sorted and chosen by tag; ways to put more into it. */
export const MaterialPlace = () => {
  const { passages, message } = useLibrary();
  const { practiceConfigs } = usePracticeConfigs();
  const { solutions } = useNotebook();
  const { store } = usePassageWriter();
  const { settings } = useSettings();
  const navigate = useNavigate();
  const columns = useColumns();
  const search = useRef<HTMLInputElement>(null);
  const file = useRef<HTMLInputElement>(null);
  const [text, setText] = useState('');
  const [tag, setTag] = useState(ALL_TAGS);
  const [order, setOrder] = useState<LibraryOrder>('played');
  const [archived, setArchived] = useState(false);
  const [trouble, setTrouble] = useState('');
  const [reading, setReading] = useState<AbortController | null>(null);
  const [asked, setAsked] = useState<{ file: File; parts: readonly ScorePart[] } | null>(null);
  const entries = useMemo(() => libraryEntries(passages, practiceConfigs), [passages, practiceConfigs]);
  const shown = useMemo(
    () => searchLibrary(entries, { text, tag: tag || null, archived, order }, solutions),
    [entries, text, tag, archived, order, solutions],
  );
  const tags = useMemo(() => [...new Set(passages.flatMap((passage) => passage.tags))].sort(), [passages]);
  const hasArchive = passages.some(({ archivedAt }) => archivedAt !== null);

  const importFile = async (chosen: File, partId?: string) => {
    setTrouble('');
    setAsked(null);
    const stopper = new AbortController();
    setReading(stopper);
    try {
      const id = newPassageId(chosen.name.replace(/\.[^.]+$/, ''));
      const { passage: read, simplified, parts, partName } = await readScoreFile(chosen, id, stopper.signal, partId);
      if (parts.length > 1 && partId === undefined) {
        setAsked({ file: chosen, parts });
        return;
      }
      const passage = forItsPart(read, partName, instrumentOf(settings.playsId, settings.instruments));
      await store(passage, 0);
      await navigate(`/material/${passage.id}`, { state: { simplified } });
    } catch (error) {
      setTrouble(playerMessage(error));
    } finally {
      setReading(null);
    }
  };
  const keys = useMemo(() => ({ '/': () => search.current?.focus(), n: () => void navigate('/material/new') }), [navigate]);
  usePageKeys(keys);

  return (
    <>
      <Flex justify="space-between" align="flex-end" gap="8px 24px" flexWrap="wrap">
        <Box>
          <PageTitle title="Material">What you practise. A title leads to its page, “practise” to the Bench.</PageTitle>
        </Box>
        <Flex gap="10px" flexWrap="wrap" marginBottom="22px">
          <Action quiet onClick={() => void navigate('/material/new')}>
            Type one
          </Action>
          <Action quiet onClick={() => void navigate('/material/patterns')}>
            Make a pattern
          </Action>
          <Action quiet onClick={() => void navigate('/material/record')}>
            Play one in
          </Action>
          <Action quiet onClick={() => void navigate('/material/along')}>
            Play along
          </Action>
          <Action quiet loading={reading !== null} loadingText="Reading …" onClick={() => file.current?.click()}>
            Open a file
          </Action>
          {reading && (
            <Action quiet onClick={() => reading.abort()}>
              Stop
            </Action>
          )}
          <input
            ref={file}
            type="file"
            accept=".musicxml,.xml,.mxl,.mid,.midi,.abc,.txt"
            aria-label="A file of notation: MusicXML, MIDI, ABC or text"
            style={{ display: 'none' }}
            onChange={(event) => {
              const [chosen] = event.target.files ?? [];
              event.target.value = '';
              if (chosen) void importFile(chosen);
            }}
          />
        </Flex>
      </Flex>
      <Notice>{message || trouble}</Notice>
      {asked && (
        <ChoosePart
          fileName={asked.file.name}
          parts={asked.parts}
          onTake={(partId) => void importFile(asked.file, partId)}
          onLeave={() => setAsked(null)}
        />
      )}
      <Flex gap="14px 24px" flexWrap="wrap" align="flex-end" marginBottom="14px">
        <Field.Root width="auto">
          <Field.Label {...labelStyle}>Search</Field.Label>
          <Input
            ref={search}
            type="search"
            value={text}
            onChange={(event) => setText(event.target.value)}
            onKeyDown={({ key }) => {
              const [found] = shown;
              if (key === 'Enter' && found) void navigate(`/material/${found.passage.id}`);
            }}
            placeholder="title, tag, notebook …"
            width="280px"
            fontSize="17px"
            borderColor="quiet"
            borderRadius="control"
          />
        </Field.Root>
        {tags.length > 0 && (
          <ChoiceField
            label="Tag"
            width="180px"
            value={tag}
            choices={[{ value: ALL_TAGS, name: 'all' }, ...tags.map((one) => ({ value: one, name: one }))]}
            onChange={setTag}
          />
        )}
        <ChoiceField<LibraryOrder>
          label="In order of"
          width="210px"
          value={order}
          choices={LIBRARY_ORDERS.map(({ id, name }) => ({ value: id, name }))}
          onChange={setOrder}
        />
        {hasArchive && (
          <ChoiceField<'no' | 'yes'>
            label="Show"
            width="150px"
            value={archived ? 'yes' : 'no'}
            choices={[
              { value: 'no', name: 'in practice' },
              { value: 'yes', name: 'put away' },
            ]}
            onChange={(choice) => setArchived(choice === 'yes')}
          />
        )}
        <Text color="quiet" fontSize="16px" paddingBottom="8px" role="status">
          {shown.length} {shown.length === 1 ? 'passage' : 'passages'}
        </Text>
      </Flex>
      <DataTable
        label="Passages"
        rows={shown}
        columns={columns}
        empty={text ? 'Nothing matches what you search.' : 'There is nothing here yet.'}
      />
    </>
  );
};
