import { Box, Flex, Link, Text } from '@chakra-ui/react';
import {
  type Course,
  courseOf,
  courseStart,
  keyOf,
  lastPlayedAt,
  type PassageSummary,
  planToday,
  type Why,
} from '@isochron/core';
import { useState } from 'react';
import { Link as RouterLink, useNavigate } from 'react-router';
import { useCourses, useHealth, usePassages } from '../../api/queries';
import { useSettings } from '../../api/settings';
import { Action } from '../../app/Action';
import { ChoiceField } from '../../app/fields';
import { Notice, PageTitle, Part } from '../../app/Page';
import { useDates } from '../../app/use-dates';
import { useSay } from '../../app/use-say';
import { useBench } from '../../stores/bench';
import { startRun } from '../../stores/run';
import { bpm } from '../../words';
import { blockPath } from '../bench/use-run';

const Line = ({ passage, course, why }: { passage: PassageSummary; course: Course; why: Why }) => {
  const say = useSay();
  const { weekday } = useDates();
  const playedAt = lastPlayedAt(course);
  const start = courseStart(course);
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
        {playedAt ? `last on ${weekday(playedAt)}` : 'not played yet'} · goal {bpm(course.goalBpm)}
      </Text>
    </Flex>
  );
};

const COUNTS = [2, 3, 4, 6];
const MINUTES = [1, 3, 5, 8, 10, 15];

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
  const [count, setCount] = useState(3);
  const [minutes, setMinutes] = useState(5);
  const beginAll = () => {
    const blocks = plan.slice(0, count).map(({ passage }) => ({
      course: keyOf(courseOf(courses, passage, settings)),
      title: passage.title,
      minutes,
    }));
    // An earlier take that still stands on the Bench is none of this.
    useBench.getState().clear();
    startRun(blocks);
    void navigate(blockPath(blocks[0] as (typeof blocks)[number]));
  };
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
      {plan.length > 1 && (
        <Part title="By itself, one after the other">
          <Flex gap="14px 34px" flexWrap="wrap" align="flex-end">
            <ChoiceField
              label="How many"
              width="150px"
              value={String(Math.min(count, plan.length))}
              choices={COUNTS.filter((one) => one <= plan.length).map((one) => ({
                value: String(one),
                name: `the first ${one}`,
              }))}
              onChange={(text) => setCount(Number(text))}
            />
            <ChoiceField
              label="Each for"
              width="150px"
              value={String(minutes)}
              choices={MINUTES.map((one) => ({ value: String(one), name: one === 1 ? '1 minute' : `${one} minutes` }))}
              onChange={(text) => setMinutes(Number(text))}
            />
            <Action quiet onClick={beginAll}>
              Begin and leave it to run
            </Action>
          </Flex>
          <Text color="quiet" fontSize="16px" marginTop="8px" maxWidth="75ch">
            Each begins by itself, keeps to its time and leads to the next. Esc holds it, Enter goes on.
          </Text>
        </Part>
      )}
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
