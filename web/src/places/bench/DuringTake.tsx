import { Box, Flex, Heading, Text } from '@chakra-ui/react';
import { type Ease, type Exercise, problemQuestions } from '@isochron/core';
import { useMemo } from 'react';
import { Action } from '../../app/Action';
import { Notice } from '../../app/Page';
import { TAP_EVENT } from '../../audio/inputs/tap';
import { useBench } from '../../stores/bench';
import { useSettings } from '../../stores/settings';
import { Strip } from '../../strip/Strip';
import { bpm, signed } from '../../strip/words';
import { Figures } from './Figures';
import { KeyHints } from './KeyHints';
import { useBenchKeys } from './use-bench-keys';
import { VerdictLine } from './VerdictLine';

const PHASE_WORDS = { counting: 'Count-in', playing: 'Play', problem: 'A moment to think', idle: '', finished: '' } as const;
const EASE_KEYS: Record<string, Ease> = { '1': 'easy', '2': 'working', '3': 'tense', '0': 'pain' };
const EASE_WORDS: Record<Ease, string> = { easy: 'easy', working: 'working', tense: 'tense', pain: 'painful' };

/** The Bench while a take is on: tempo, verdict and reason large; the strip beneath. */
export const DuringTake = ({ exercise }: { exercise: Exercise }) => {
  const { loop, send, remark, trouble, peakDb, calibrated } = useBench();
  const settings = useSettings((store) => store.settings);
  const last = loop.repetitions.at(-1);

  const keys = useMemo(
    () => ({
      Escape: () => send({ type: 'stop' }),
      PageUp: () => send({ type: 'stop' }),
      ArrowUp: () => send({ type: 'wish', changeBpm: settings.stepBpm }),
      ArrowDown: () => send({ type: 'wish', changeBpm: -settings.stepBpm }),
      Enter: () => send({ type: 'resume' }),
      PageDown: () => send({ type: 'resume' }),
      ...Object.fromEntries(Object.entries(EASE_KEYS).map(([key, ease]) => [key, () => send({ type: 'ease', ease })])),
    }),
    [send, settings.stepBpm],
  );
  useBenchKeys(keys);

  return (
    <>
      <Flex gap="48px" align="flex-start">
        <Box minWidth="236px">
          <Text
            fontFamily="heading"
            fontSize="132px"
            lineHeight="0.9"
            data-testid="tempo"
            aria-label={`Tempo ${bpm(loop.tempoBpm)}`}
          >
            {bpm(loop.wishedBpm ?? loop.tempoBpm)}
          </Text>
          <Text fontSize="24px" color="now" fontWeight="600" data-testid="phase" marginTop="8px">
            {loop.wishedBpm === null ? PHASE_WORDS[loop.phase] : 'next, by your choice'}
          </Text>
          <Heading as="h1" fontFamily="heading" fontWeight="500" fontSize="19px" lineHeight="1.3">
            {exercise.title}
          </Heading>
          <Text fontSize="17px" color="quiet">
            goal {bpm(loop.course.goalBpm)} · input {peakDb === null ? '–' : `${signed(peakDb, 0)} dB`}
          </Text>
        </Box>
        <Box flex="1" minHeight="176px">
          {last ? (
            <VerdictLine repetition={last} />
          ) : (
            <Text fontFamily="heading" fontSize="40px" lineHeight="1.2" maxWidth="20ch">
              Listen for one bar, then play.
            </Text>
          )}
        </Box>
      </Flex>
      <Notice>{trouble || remark}</Notice>
      {loop.phase === 'problem' ? (
        <Box
          as="ol"
          paddingLeft="26px"
          marginY="14px"
          fontSize="24px"
          aria-label="Questions worth asking"
          listStyleType="decimal"
        >
          {problemQuestions(loop.repetitions).map((question) => (
            <li key={question}>{question}</li>
          ))}
        </Box>
      ) : (
        last && <Figures measures={last.measures} calibrated={calibrated} />
      )}
      <Box marginTop="14px">
        <Strip
          exercise={exercise}
          repetitions={loop.repetitions.slice(-8)}
          tolerance={settings.tolerance}
          calibrated={calibrated}
        />
      </Box>
      {settings.input === 'tap' && (
        <Box
          as="button"
          aria-label="Tap pad: tap here or press the space bar"
          width="100%"
          height="130px"
          marginY="12px"
          border="1px dashed"
          borderColor="quiet"
          fontFamily="heading"
          fontSize="24px"
          onPointerDown={(event) => window.dispatchEvent(new CustomEvent(TAP_EVENT, { detail: event.timeStamp }))}
        >
          tap here, or the space bar
        </Box>
      )}
      <Flex justify="space-between" align="center" gap="20px" flexWrap="wrap">
        <KeyHints
          hints={[
            ['↑ ↓', 'your own tempo'],
            ['1 2 3', last?.ease ? `felt ${EASE_WORDS[last.ease]}` : 'easy, working, tense'],
            ['0', 'it hurts: stop'],
            ['Esc', 'stop'],
          ]}
        />
        <Flex gap="12px">
          {loop.phase === 'problem' && <Action onClick={() => send({ type: 'resume' })}>Go on at {bpm(loop.tempoBpm)}</Action>}
          <Action quiet onClick={() => send({ type: 'stop' })}>
            Stop
          </Action>
        </Flex>
      </Flex>
    </>
  );
};
