import { Box, Flex, Link, Text } from '@chakra-ui/react';
import { notesPerBeat, noteValueName } from '@isochron/core';
import { Link as RouterLink } from 'react-router';
import { Notice, PageTitle } from '../../app/Page';
import { useLibrary } from '../../stores/library';
import { useSettings } from '../../stores/settings';
import { Strip } from '../../strip/Strip';
import { bpm } from '../../strip/words';

/** Material: every exercise with its notation; choosing one leads to the Bench. */
export const MaterialPlace = () => {
  const { status, message, exercises } = useLibrary();
  const { settings } = useSettings();
  return (
    <>
      <PageTitle title="Material">Choose what to play. Each opens on the Bench.</PageTitle>
      {status === 'unreachable' && <Notice>{message}</Notice>}
      {exercises.map((exercise) => (
        <Box as="article" key={exercise.id} borderTop="1px solid" borderColor="rule" paddingTop="14px">
          <Flex justify="space-between" gap="24px" align="baseline" flexWrap="wrap">
            <Link
              asChild
              fontFamily="heading"
              fontSize="24px"
              color="ink"
              textDecoration="underline"
              textDecorationColor="quiet"
            >
              <RouterLink to={`/bench/${exercise.id}`}>{exercise.title}</RouterLink>
            </Link>
            <Text color="quiet" fontSize="16px">
              {exercise.meter.count}/{exercise.meter.unit} · up to {notesPerBeat(exercise)} notes a{' '}
              {noteValueName(exercise.beatUnit, settings.noteNaming)} · goal {bpm(exercise.goalBpm)}
            </Text>
          </Flex>
          <Text color="quiet">{exercise.about}</Text>
          <Strip exercise={exercise} repetitions={[]} tolerance={settings.tolerance} calibrated={false} notationOnly />
        </Box>
      ))}
    </>
  );
};
