import { Box, Flex, Link, Text } from '@chakra-ui/react';
import { type Course, courseOf, type Passage, planToday, startTempo, type Why } from '@isochron/core';
import { Link as RouterLink, useNavigate } from 'react-router';
import { useCourses, useHealth, usePassages } from '../../api/queries';
import { useSettings } from '../../api/settings';
import { Action } from '../../app/Action';
import { Notice, PageTitle, Part } from '../../app/Page';
import { useDates } from '../../app/use-dates';
import { useSay } from '../../app/use-say';
import { bpm } from '../../words';

const Line = ({ passage, course, why }: { passage: Passage; course: Course; why: Why }) => {
  const say = useSay();
  const { weekday } = useDates();
  const start = startTempo(course.goalBpm, course.last?.closing ?? null);
  return (
    <Flex
      as="li"
      gap="4px 26px"
      align="baseline"
      borderBottom="1px solid"
      borderColor="rule"
      paddingY="12px"
      flexWrap={{ base: 'wrap', md: 'nowrap' }}
    >
      <Text fontFamily="heading" fontSize="40px" width="92px" textAlign="right" lineHeight="1">
        {bpm(start.bpm)}
      </Text>
      <Box flex="1" minWidth="180px">
        <Link asChild fontFamily="heading" fontSize="22px" color="ink" textDecoration="underline" textDecorationColor="rule">
          <RouterLink to={`/bench/${passage.id}`}>{passage.title}</RouterLink>
        </Link>
        <Text color="quiet">
          {say(why)} {say(start.why)}
        </Text>
      </Box>
      <Text color="quiet" fontSize="16px">
        {course.last ? `last on ${weekday(course.last.startedAt)}` : 'not played yet'} · goal {bpm(course.goalBpm)}
      </Text>
    </Flex>
  );
};

/** Today: what to play, where each begins, and one large begin. */
export const TodayPlace = () => {
  const { passages, isLoading, message } = usePassages();
  const { courses } = useCourses();
  const { settings } = useSettings();
  const isDemo = useHealth().data?.demo ?? false;
  const { weekday } = useDates();
  const navigate = useNavigate();
  const plan = planToday(passages, courses);
  const first = plan[0];
  return (
    <>
      <Flex justify="space-between" align="flex-end" gap="20px" flexWrap="wrap">
        <Box>
          <PageTitle title="Today">{weekday(new Date())}</PageTitle>
        </Box>
        {first && (
          <Action
            fontSize="34px"
            fontFamily="heading"
            padding="10px 36px"
            marginBottom="22px"
            onClick={() => navigate(`/bench/${first.passage.id}`)}
          >
            Begin
          </Action>
        )}
      </Flex>
      {isDemo && (
        <Text borderLeft="4px solid" borderColor="now" paddingLeft="14px" fontSize="17px" maxWidth="80ch">
          This is the demo: ten weeks of made-up practice by a player who does not exist.
          {settings.input === 'simulated' && ' Begin works without an instrument: the simulated player plays.'}
        </Text>
      )}
      {isLoading && <Text>Fetching what you played …</Text>}
      <Notice>{message}</Notice>
      <Part title="In this order">
        <Box as="ol" listStyleType="none" padding="0">
          {plan.map(({ passage, why }) => (
            <Line key={passage.id} passage={passage} course={courseOf(courses, passage, settings)} why={why} />
          ))}
        </Box>
      </Part>
      <Part title="Before you start">
        <Text maxWidth="75ch">
          Warm up for a few minutes with something easy. Take a break of five minutes after twenty-five. Keep the click and the
          instrument moderately loud: an hour near 94 dBA is already the recommended limit for a whole day, and Isochron cannot
          measure how loud it is where you stand. If anything hurts, tingles or goes numb, stop.
        </Text>
      </Part>
    </>
  );
};
