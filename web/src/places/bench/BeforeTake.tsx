import { Box, Flex, Heading, Link, Text } from '@chakra-ui/react';
import { type Exercise, intervalMs, notesPerBeat, noteValueName, TempoSchema } from '@isochron/core';
import { useMemo, useState } from 'react';
import { Link as RouterLink } from 'react-router';
import { Action } from '../../app/Action';
import { ChoiceField, NumberField } from '../../app/fields';
import { Notice } from '../../app/Page';
import { inputOf } from '../../audio/inputs/inputs';
import { useBench } from '../../stores/bench';
import { startTempoOf, useLibrary } from '../../stores/library';
import { useSettings } from '../../stores/settings';
import { Strip } from '../../strip/Strip';
import { KeyHints } from './KeyHints';
import { useBenchKeys } from './use-bench-keys';

const STEPS = [
  { value: '2', name: '2 at a time' },
  { value: '5', name: '5 at a time' },
  { value: '10', name: '10 at a time' },
] as const;

/** The Bench before a take: goal, start, step, and one key to begin. */
export const BeforeTake = ({ exercise }: { exercise: Exercise }) => {
  const takes = useLibrary((library) => library.takes);
  const { settings, change } = useSettings();
  const { begin, opening, trouble } = useBench();
  const [goalBpm, setGoalBpm] = useState(takes.find((take) => take.exerciseId === exercise.id)?.goalBpm ?? exercise.goalBpm);
  const [ownStartBpm, setOwnStartBpm] = useState<number | null>(null);
  const suggested = startTempoOf(takes, exercise, goalBpm);
  const startBpm = ownStartBpm ?? suggested.bpm;

  const keys = useMemo(() => {
    const start = () => void begin(exercise, { goalBpm, startBpm, stepBpm: settings.stepBpm }, settings);
    return { Enter: start, PageDown: start };
  }, [begin, exercise, goalBpm, startBpm, settings]);
  useBenchKeys(keys);

  const unit = noteValueName(exercise.beatUnit, settings.noteNaming);
  return (
    <>
      <Flex justify="space-between" align="flex-end" gap="30px" flexWrap="wrap">
        <Box maxWidth="560px">
          <Heading as="h1" fontFamily="heading" fontWeight="500" fontSize="40px" lineHeight="1.15">
            {exercise.title}
          </Heading>
          <Text color="quiet">{exercise.about}</Text>
        </Box>
        <Action
          onClick={keys.Enter}
          loading={opening}
          loadingText="Opening the sound …"
          fontSize="34px"
          fontFamily="heading"
          padding="10px 36px"
        >
          Begin
        </Action>
      </Flex>
      <Notice>{trouble}</Notice>
      <Flex gap="40px" marginTop="26px" marginBottom="20px" flexWrap="wrap" align="flex-start">
        <NumberField label="Goal" unit={`${unit}s a minute`} value={goalBpm} schema={TempoSchema} onChange={setGoalBpm} />
        <NumberField
          label="Start"
          value={startBpm}
          schema={TempoSchema}
          onChange={(bpm) => setOwnStartBpm(bpm === suggested.bpm ? null : bpm)}
          help={ownStartBpm === null ? suggested.reason : `Your own choice. Suggested: ${suggested.bpm}.`}
        />
        <ChoiceField
          label="Step after a clean repetition"
          width="180px"
          value={String(settings.stepBpm) as '2' | '5' | '10'}
          choices={STEPS}
          onChange={(step) => void change({ stepBpm: Number(step) as 2 | 5 | 10 })}
        />
        <Box fontSize="16px" maxWidth="300px">
          <Text fontWeight="600">Heard by</Text>
          <Text>
            {inputOf(settings.input).name}.{' '}
            <Link asChild color="now" textDecoration="underline">
              <RouterLink to="/setup">Change in Setup</RouterLink>
            </Link>
          </Text>
          <Text color="quiet">
            At the start tempo the closest notes are {intervalMs(startBpm, notesPerBeat(exercise)).toFixed(0)} ms apart.
          </Text>
        </Box>
      </Flex>
      <Strip exercise={exercise} repetitions={[]} tolerance={settings.tolerance} calibrated={false} />
      <KeyHints
        hints={[
          ['Enter', 'begin (or a pedal’s Page Down)'],
          ['Esc', 'stop'],
          ['↑ ↓', 'tempo by your own choice'],
          ['1 2 3', 'how it felt: easy, working, tense'],
          ['0', 'it hurts: stop'],
        ]}
      />
      <Text marginTop="18px" color="quiet" fontSize="16px" maxWidth="80ch">
        Before you begin: do you know the notes and the rhythm, is the fingering settled, and can you get through it at some
        tempo without stopping? If not, learn it first, slower or in smaller pieces. Keep the click and the instrument
        moderately loud.
      </Text>
    </>
  );
};
