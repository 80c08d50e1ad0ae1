import { Box, Flex, Grid, Heading, Text } from '@chakra-ui/react';
import { type Passage, problemQuestions, schoolOf } from '@isochron/core';
import { useMemo } from 'react';
import { useShallow } from 'zustand/react/shallow';
import { useCourse } from '../../api/queries';
import { useSettings } from '../../api/settings';
import { Action } from '../../app/Action';
import { Notice } from '../../app/Page';
import { usePageKeys } from '../../app/use-page-keys';
import { useSay } from '../../app/use-say';
import { TAP_EVENT } from '../../audio/inputs/tap';
import { useBench } from '../../stores/bench';
import { Strip } from '../../strip/Strip';
import { bpm, signed, tempoWords } from '../../words';
import { easeHints, easeKeys } from './ease-keys';
import { Figures } from './Figures';
import { KeyHints } from './KeyHints';
import { VerdictLine } from './VerdictLine';

const PHASE_WORDS = { counting: 'Count-in', playing: 'Play', problem: 'A moment to think', idle: '', finished: '' } as const;
const ROWS_SHOWN = 8;

/** What block this is: the right third of the Bench. */
const BlockWords = ({ passage }: { passage: Passage }) => {
  const loop = useBench((bench) => bench.loop);
  const peakDb = useBench((bench) => bench.peakDb);
  const clean = loop.repetitions.filter(({ verdict }) => verdict.outcome === 'clean').length;
  const played = loop.repetitions.length;
  return (
    <Box fontSize="17px" color="quiet" minWidth="200px">
      <Heading as="h1" fontFamily="heading" fontWeight="500" fontSize="22px" lineHeight="1.25" color="ink">
        {passage.title}
      </Heading>
      <Text>{schoolOf(loop.ladder.school.id).name}</Text>
      <Text>
        goal {bpm(loop.aim.goalBpm)} · from {bpm(loop.aim.startBpm)}
      </Text>
      <Text>{played === 0 ? 'first repetition' : `${played} played, ${clean} clean`}</Text>
      <Text>input {peakDb === null ? '–' : `${signed(peakDb, 0)} dB`}</Text>
    </Box>
  );
};

/** The Bench while a take is on: tempo, verdict and reason large; the strip over the whole width. */
export const DuringTake = ({ passage }: { passage: Passage }) => {
  const say = useSay();
  // The level changes ten times a second: what is drawn large does not hang on it.
  const { loop, send, remark, trouble, calibrated } = useBench(
    useShallow((bench) => ({
      loop: bench.loop,
      send: bench.send,
      remark: bench.remark,
      trouble: bench.trouble,
      calibrated: bench.calibrated,
    })),
  );
  const { settings } = useSettings();
  const { course } = useCourse(passage);
  const last = loop.repetitions.at(-1);
  const shown = useMemo(() => loop.repetitions.slice(-ROWS_SHOWN), [loop.repetitions]);
  const stepBpm = Number(loop.ladder.school.options.stepBpm ?? 5);

  const keys = useMemo(
    () => ({
      Escape: () => send({ type: 'stop' }),
      PageUp: () => send({ type: 'stop' }),
      ArrowUp: () => send({ type: 'wish', changeBpm: stepBpm }),
      ArrowDown: () => send({ type: 'wish', changeBpm: -stepBpm }),
      Enter: () => send({ type: 'resume' }),
      PageDown: () => send({ type: 'resume' }),
      ...easeKeys((ease) => send({ type: 'ease', ease })),
    }),
    [send, stepBpm],
  );
  usePageKeys(keys);

  return (
    <Flex direction="column" gap="12px">
      <Grid
        templateColumns={{ base: 'minmax(0, 1fr)', md: '200px minmax(0, 1fr)', xl: '236px minmax(0, 1fr) 220px' }}
        gap={{ base: '6px 20px', md: '12px 36px' }}
      >
        <Flex
          direction={{ base: 'row', md: 'column' }}
          align={{ base: 'flex-end', md: 'flex-start' }}
          gap={{ base: '16px', md: '6px' }}
        >
          <Text
            fontFamily="heading"
            fontSize={{ base: '92px', md: '112px', xl: '132px' }}
            lineHeight="0.9"
            data-testid="tempo"
            role="img"
            aria-label={`Tempo ${tempoWords(loop.tempo)}`}
          >
            {loop.wishedBpm === null ? tempoWords(loop.tempo) : bpm(loop.wishedBpm)}
          </Text>
          <Text fontSize="24px" color="now" fontWeight="600" data-testid="phase">
            {loop.wishedBpm === null ? PHASE_WORDS[loop.phase] : 'next, by your choice'}
          </Text>
        </Flex>
        <Box minHeight={{ base: 0, md: '168px' }}>
          {last ? (
            <VerdictLine repetition={last} />
          ) : (
            <Text fontFamily="heading" fontSize={{ base: '30px', md: '40px' }} lineHeight="1.2" maxWidth="22ch">
              {course.click.kind === 'none' ? 'Listen for one bar, then play on alone.' : 'Listen for one bar, then play.'}
            </Text>
          )}
        </Box>
        <Box display={{ base: 'none', md: 'block' }} gridColumn={{ md: '2', xl: 'auto' }}>
          <BlockWords passage={passage} />
        </Box>
      </Grid>
      <Notice>{trouble || remark}</Notice>
      {loop.phase === 'problem' && (
        <Box as="ol" paddingLeft="26px" fontSize="24px" aria-label="Questions worth asking" listStyleType="decimal">
          {problemQuestions(loop.repetitions).map((question) => (
            <li key={question.code}>{say(question)}</li>
          ))}
        </Box>
      )}
      {last && loop.phase !== 'problem' && (
        <Box order={{ base: 3, md: 0 }}>
          <Figures measures={last.measures} calibrated={calibrated} />
        </Box>
      )}
      {loop.drill && (
        <Strip
          title={passage.title}
          grid={loop.drill.grid}
          repetitions={shown}
          tolerance={settings.tolerance}
          calibrated={calibrated}
        />
      )}
      {settings.input === 'tap' && (
        <Box
          as="button"
          aria-label="Tap pad: tap here or press the space bar"
          width="100%"
          height="130px"
          border="1px dashed"
          borderColor="quiet"
          fontFamily="heading"
          fontSize="24px"
          onPointerDown={(event) => window.dispatchEvent(new CustomEvent(TAP_EVENT, { detail: event.timeStamp }))}
        >
          tap here, or the space bar
        </Box>
      )}
      <Flex justify="space-between" align="center" gap="12px 20px" flexWrap="wrap" order={4}>
        <KeyHints
          hints={[
            { keyName: '↑', does: 'faster', act: keys.ArrowUp },
            { keyName: '↓', does: 'slower', act: keys.ArrowDown },
            ...easeHints((ease) => send({ type: 'ease', ease }), last?.ease ?? null),
            { keyName: 'Esc', does: 'stop', act: keys.Escape },
          ]}
        />
        <Flex gap="12px">
          {loop.phase === 'problem' && (
            <Action onClick={() => send({ type: 'resume' })}>Go on at {tempoWords(loop.tempo)}</Action>
          )}
          <Action quiet onClick={() => send({ type: 'stop' })}>
            Stop
          </Action>
        </Flex>
      </Flex>
    </Flex>
  );
};
