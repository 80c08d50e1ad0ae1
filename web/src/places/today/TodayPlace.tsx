import { Box, Flex, Link, Text } from '@chakra-ui/react';
import { type Exercise, planToday, type TakeSummary } from '@isochron/core';
import { Link as RouterLink, useNavigate } from 'react-router';
import { Action } from '../../app/Action';
import { Notice, PageTitle, Part } from '../../app/Page';
import { lastTakeOf, startTempoOf, useLibrary } from '../../stores/library';
import { bpm } from '../../strip/words';

const dayWords = (iso: string): string =>
  new Date(iso).toLocaleDateString('en-GB', { weekday: 'long', day: 'numeric', month: 'long' });

const Line = ({ exercise, takes, why }: { exercise: Exercise; takes: readonly TakeSummary[]; why: string }) => {
  const last = lastTakeOf(takes, exercise.id);
  const start = startTempoOf(takes, exercise, last?.goalBpm ?? exercise.goalBpm);
  return (
    <Flex as="li" gap="26px" align="baseline" borderBottom="1px solid" borderColor="rule" paddingY="12px">
      <Text fontFamily="heading" fontSize="40px" width="92px" textAlign="right" lineHeight="1">
        {bpm(start.bpm)}
      </Text>
      <Box flex="1">
        <Link asChild fontFamily="heading" fontSize="22px" color="ink" textDecoration="underline" textDecorationColor="rule">
          <RouterLink to={`/bench/${exercise.id}`}>{exercise.title}</RouterLink>
        </Link>
        <Text color="quiet">
          {why} {start.reason}
        </Text>
      </Box>
      <Text color="quiet" fontSize="16px">
        {last ? `last on ${dayWords(last.startedAt)}` : 'not played yet'} · goal {bpm(last?.goalBpm ?? exercise.goalBpm)}
      </Text>
    </Flex>
  );
};

/** Today: what to play, where each begins, and one large begin. */
export const TodayPlace = () => {
  const { status, message, exercises, takes } = useLibrary();
  const navigate = useNavigate();
  const plan = planToday(exercises, takes);
  const first = plan[0];
  return (
    <>
      <Flex justify="space-between" align="flex-end" gap="20px" flexWrap="wrap">
        <Box>
          <PageTitle title="Today">{dayWords(new Date().toISOString())}</PageTitle>
        </Box>
        {first && (
          <Action
            fontSize="34px"
            fontFamily="heading"
            padding="10px 36px"
            marginBottom="22px"
            onClick={() => navigate(`/bench/${first.exercise.id}`)}
          >
            Begin
          </Action>
        )}
      </Flex>
      {status === 'loading' && <Text>Fetching what you played …</Text>}
      {status === 'unreachable' && <Notice>{message}</Notice>}
      <Part title="In this order">
        <Box as="ol" listStyleType="none" padding="0">
          {plan.map(({ exercise, why }) => (
            <Line key={exercise.id} exercise={exercise} takes={takes} why={why} />
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
