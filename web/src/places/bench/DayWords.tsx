import { Box, Link, Text } from '@chakra-ui/react';
import type { PracticeConfig } from '@isochron/core/schema';
import { nowMs } from '@isochron/core/schema';
import { useQuery } from '@tanstack/react-query';
import { Link as RouterLink } from 'react-router';
import { usePassageRepetitions } from '../../api/queries/practice';
import { Folded } from '../../app/Folded';
import { useDescribe } from '../../app/use-describe';
import { useTempos } from '../../workers/use-tempos';

/** What the day's practice comes to, once the take is stored: easy, edge, how much was slow, what to finish with. */
export const DayWords = ({ config }: { config: Pick<PracticeConfig, 'passageId' | 'variantId' | 'sectionId' | 'goalBpm'> }) => {
  const say = useDescribe();
  const { passageId, goalBpm } = config;
  const { repetitions } = usePassageRepetitions(passageId);
  const { ask, orBroken } = useTempos();
  const told = useQuery({
    queryKey: [
      'day-words',
      passageId,
      config.variantId,
      config.sectionId,
      goalBpm,
      repetitions.length,
      repetitions.at(-1)?.takeId,
    ],
    queryFn: () => orBroken(ask.day(config, repetitions, goalBpm, nowMs())),
    enabled: repetitions.length > 0,
  }).data;
  if (!told?.length) return null;
  return (
    <Folded title="Where this tempo stands">
      <Box fontSize="18px" lineHeight="1.5" data-testid="day-words">
        {told.map((sentence) => (
          <Text key={sentence.code}>{say(sentence)}</Text>
        ))}
        <Link asChild color="now" textDecoration="underline" fontSize="17px">
          <RouterLink to={`/ledger/tempo/${passageId}`}>All that it tells of the tempo</RouterLink>
        </Link>
      </Box>
    </Folded>
  );
};
