import { Box, Link, Table, Text } from '@chakra-ui/react';
import { useState } from 'react';
import { Link as RouterLink } from 'react-router';
import { ChoiceField } from '../../app/fields';
import { Notice, PageTitle, Part } from '../../app/Page';
import { TempoHistory } from '../../charts/TempoHistory';
import { useLibrary } from '../../stores/library';
import { bpm } from '../../strip/words';
import { TableHead } from './TableHead';

const SHOWN_AT_FIRST = 20;

const when = (iso: string): string =>
  new Date(iso).toLocaleString('en-GB', { day: 'numeric', month: 'short', hour: '2-digit', minute: '2-digit' });

const cell = { paddingY: '7px', paddingX: '10px', fontSize: '17px', borderColor: 'rule', background: 'transparent' } as const;

/** The Ledger: the tempo history of an exercise, and every take. */
export const LedgerPlace = () => {
  const { status, message, exercises, takes } = useLibrary();
  const [chosen, setChosen] = useState<string | null>(null);
  const [shown, setShown] = useState(SHOWN_AT_FIRST);
  const exerciseId = chosen ?? takes[0]?.exerciseId ?? '';
  const exercise = exercises.find((one) => one.id === exerciseId);
  const own = takes.filter((take) => take.exerciseId === exerciseId);
  return (
    <>
      <PageTitle title="Ledger">
        What was played, and what it came to.{' '}
        <Link asChild color="now" textDecoration="underline">
          <RouterLink to="/ledger/measure-a-file">Measure a file from elsewhere</RouterLink>
        </Link>
      </PageTitle>
      {status === 'unreachable' && <Notice>{message}</Notice>}
      {status === 'ready' && takes.length === 0 && <Text>Nothing yet. The first take appears here by itself.</Text>}
      {exercise && (
        <>
          <ChoiceField
            label="Exercise"
            value={exerciseId}
            choices={exercises.map((one) => ({ value: one.id, name: one.title }))}
            onChange={setChosen}
          />
          <Part title="Best clean tempo of each take">
            <TempoHistory takes={own} goalBpm={own[0]?.goalBpm ?? exercise.goalBpm} title={exercise.title} />
          </Part>
          <Part title={`Takes of ${exercise.title}`}>
            <Box overflowX="auto" tabIndex={0} role="region" aria-label={`Takes of ${exercise.title}`}>
              <Table.Root size="sm" background="transparent">
                <TableHead
                  names={['When', 'From', 'Best clean', 'Closed at', 'Next start', 'Repetitions', 'Recording']}
                  cell={cell}
                />
                <Table.Body>
                  {own.slice(0, shown).map((take) => (
                    <Table.Row key={take.id} background="transparent">
                      <Table.Cell {...cell}>
                        <Link asChild color="now" textDecoration="underline">
                          <RouterLink to={`/ledger/${take.id}`}>{when(take.startedAt)}</RouterLink>
                        </Link>
                      </Table.Cell>
                      <Table.Cell {...cell}>{bpm(take.startBpm)}</Table.Cell>
                      <Table.Cell {...cell} fontFamily="heading" fontSize="19px">
                        {take.closing?.bestCleanBpm ? bpm(take.closing.bestCleanBpm) : '–'}
                      </Table.Cell>
                      <Table.Cell {...cell}>{take.closing ? bpm(take.closing.closingBpm) : '–'}</Table.Cell>
                      <Table.Cell {...cell}>{take.closing ? bpm(take.closing.nextStartBpm) : '–'}</Table.Cell>
                      <Table.Cell {...cell}>
                        {take.repetitionCount}, {take.cleanCount} clean
                      </Table.Cell>
                      <Table.Cell {...cell}>{take.hasRecording ? 'yes' : 'figures only'}</Table.Cell>
                    </Table.Row>
                  ))}
                </Table.Body>
              </Table.Root>
            </Box>
            {own.length > shown && (
              <Link as="button" color="now" textDecoration="underline" onClick={() => setShown(own.length)}>
                Show all {own.length}
              </Link>
            )}
          </Part>
        </>
      )}
    </>
  );
};
