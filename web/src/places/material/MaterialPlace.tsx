import { Box, Flex, Link, Text } from '@chakra-ui/react';
import { firstDrill, notesPerBeat, noteValueName, type Passage } from '@isochron/core';
import { useMemo } from 'react';
import { Link as RouterLink } from 'react-router';
import { useCourses, usePassages } from '../../api/queries';
import { useSettings } from '../../api/settings';
import { Notice, PageTitle } from '../../app/Page';
import { Strip } from '../../strip/Strip';
import { bpm } from '../../words';

const Entry = ({ passage, goalBpm }: { passage: Passage; goalBpm: number }) => {
  const { settings } = useSettings();
  const { grid } = useMemo(() => firstDrill(passage), [passage]);
  const meter = passage.meters[0];
  return (
    <Box as="article" borderTop="1px solid" borderColor="rule" paddingTop="14px">
      <Flex justify="space-between" gap="4px 24px" align="baseline" flexWrap="wrap">
        <Link asChild fontFamily="heading" fontSize="24px" color="ink" textDecoration="underline" textDecorationColor="quiet">
          <RouterLink to={`/bench/${passage.id}`}>{passage.title}</RouterLink>
        </Link>
        <Text color="quiet" fontSize="16px">
          {meter && `${meter.count}/${meter.unit} · `}up to {notesPerBeat(grid)} notes a{' '}
          {noteValueName(passage.beatUnit, settings.noteNaming)} · goal {bpm(goalBpm)}
        </Text>
      </Flex>
      <Text color="quiet">{passage.about}</Text>
      <Strip
        title={passage.title}
        grid={grid}
        repetitions={[]}
        tolerance={settings.tolerance}
        calibrated={false}
        notationOnly
      />
    </Box>
  );
};

/** Material: every passage with its notation; choosing one leads to the Bench. */
export const MaterialPlace = () => {
  const { passages, message } = usePassages();
  const { courses } = useCourses();
  return (
    <>
      <PageTitle title="Material">Choose what to play. Each opens on the Bench.</PageTitle>
      <Notice>{message}</Notice>
      {passages.map((passage) => (
        <Entry
          key={passage.id}
          passage={passage}
          goalBpm={courses.find((course) => course.passageId === passage.id)?.goalBpm ?? passage.goalBpm}
        />
      ))}
    </>
  );
};
