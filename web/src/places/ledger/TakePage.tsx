import { Box, Flex, Link, Table, Text } from '@chakra-ui/react';
import type { Take } from '@isochron/core';
import { useEffect, useRef, useState } from 'react';
import { Link as RouterLink, useParams } from 'react-router';
import { getTake, recordingAddress } from '../../api/client';
import { Action } from '../../app/Action';
import { Notice, PageTitle, Part } from '../../app/Page';
import { useLibrary } from '../../stores/library';
import { Strip } from '../../strip/Strip';
import { bpm, figure, OUTCOME_WORDS } from '../../strip/words';

const INPUT_WORDS = { microphone: 'microphone', simulated: 'the simulated player', tap: 'tap pad' } as const;
/** Hearing begins this long before a note. */
const LEAD_S = 0.15;
const cell = { paddingY: '6px', paddingX: '8px', fontSize: '16px', borderColor: 'rule', background: 'transparent' } as const;

/** One take: its strip, its recording to hear from any note, and every figure. */
export const TakePage = () => {
  const { takeId = '' } = useParams();
  const exercises = useLibrary((library) => library.exercises);
  const [take, setTake] = useState<Take | null>(null);
  const [message, setMessage] = useState('');
  const [playing, setPlaying] = useState(false);
  const [audioTrouble, setAudioTrouble] = useState('');
  const audio = useRef<HTMLAudioElement>(null);
  useEffect(() => {
    getTake(takeId).then(setTake, (error: Error) => setMessage(error.message));
  }, [takeId]);

  const exercise = exercises.find((one) => one.id === take?.exerciseId);
  if (message) return <Notice>{message}</Notice>;
  if (!take || !exercise) return <Text>Fetching the take …</Text>;
  const calibrated = take.latencyS !== null;
  const playFrom = (_repetition: unknown, timeS: number) => {
    if (!audio.current) return;
    audio.current.currentTime = Math.max(0, timeS - LEAD_S);
    void audio.current.play();
  };
  return (
    <>
      <PageTitle title={exercise.title}>
        {new Date(take.startedAt).toLocaleString('en-GB', { dateStyle: 'full', timeStyle: 'short' })}, heard by{' '}
        {INPUT_WORDS[take.input]}, tolerance “{take.tolerance.preset}”, goal {bpm(take.goalBpm)}.{' '}
        <Link asChild color="now" textDecoration="underline">
          <RouterLink to="/ledger">Back to the Ledger</RouterLink>
        </Link>
      </PageTitle>
      {take.closing && (
        <Text fontSize="21px" marginBottom="8px">
          {take.closing.bestCleanBpm === null
            ? 'No clean repetition this time.'
            : `Best clean tempo ${bpm(take.closing.bestCleanBpm)}.`}{' '}
          Next time begins at {bpm(take.closing.nextStartBpm)}. {take.closing.nextStartReason}
        </Text>
      )}
      {take.hasRecording ? (
        <Flex gap="16px" align="center">
          {/* biome-ignore lint/a11y/useMediaCaption: an instrument alone; the strip and the table are its text. */}
          <audio
            ref={audio}
            preload="metadata"
            src={recordingAddress(take.id)}
            onPlay={() => setPlaying(true)}
            onPause={() => setPlaying(false)}
            onError={() => setAudioTrouble('The recording cannot be fetched just now. Reload the page to try again.')}
          />
          <Action quiet onClick={() => (playing ? audio.current?.pause() : playFrom(take.repetitions[0], 0))}>
            {playing ? 'Stop listening' : 'Hear the take'}
          </Action>
          <Text color="quiet">or choose any note on the strip to hear it from there.</Text>
        </Flex>
      ) : (
        <Text color="quiet">This take was kept as figures only.</Text>
      )}
      <Notice>{audioTrouble}</Notice>
      <Box marginTop="14px">
        <Strip
          exercise={exercise}
          repetitions={take.repetitions}
          tolerance={take.tolerance}
          calibrated={calibrated}
          onPlay={take.hasRecording ? playFrom : undefined}
        />
      </Box>
      <Part title="Every repetition">
        <Box overflowX="auto" tabIndex={0} role="region" aria-label="Every repetition in figures">
          <Table.Root size="sm">
            <Table.Header>
              <Table.Row background="transparent">
                {[
                  '',
                  'Tempo',
                  'Verdict',
                  'Reason',
                  'Accuracy',
                  'Spread',
                  'Unevenness',
                  'Drift',
                  'Missed',
                  'Extra',
                  'Felt',
                  'Then',
                ].map((name) => (
                  <Table.ColumnHeader key={name || 'number'} {...cell} color="quiet" fontWeight="400">
                    {name || 'No.'}
                  </Table.ColumnHeader>
                ))}
              </Table.Row>
            </Table.Header>
            <Table.Body>
              {take.repetitions.map(({ index, tempoBpm, verdict, measures, ease, decision }) => (
                <Table.Row key={index} background="transparent">
                  <Table.Cell {...cell}>{index + 1}</Table.Cell>
                  <Table.Cell {...cell}>{bpm(tempoBpm)}</Table.Cell>
                  <Table.Cell {...cell}>{OUTCOME_WORDS[verdict.outcome]}</Table.Cell>
                  <Table.Cell {...cell}>{verdict.sentence}</Table.Cell>
                  <Table.Cell {...cell}>{figure(measures.accuracyPct, '%', 0)}</Table.Cell>
                  <Table.Cell {...cell}>{figure(measures.spreadMs?.value, 'ms')}</Table.Cell>
                  <Table.Cell {...cell}>{figure(measures.unevennessPct?.value, '%')}</Table.Cell>
                  <Table.Cell {...cell}>{figure(measures.driftPct, '%')}</Table.Cell>
                  <Table.Cell {...cell}>{measures.missed}</Table.Cell>
                  <Table.Cell {...cell}>{measures.extra}</Table.Cell>
                  <Table.Cell {...cell}>{ease ?? '–'}</Table.Cell>
                  <Table.Cell {...cell}>{decision.reason}</Table.Cell>
                </Table.Row>
              ))}
            </Table.Body>
          </Table.Root>
        </Box>
      </Part>
    </>
  );
};
