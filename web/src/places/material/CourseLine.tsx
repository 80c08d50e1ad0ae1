import { Flex, Link, Text } from '@chakra-ui/react';
import type { Passage, PracticeConfig } from '@isochron/core';
import { Link as RouterLink } from 'react-router';
import { bpm } from '../../words';

/** What of the measured tempos of its parts a passage page tells, a line a course. */
export const ConfigLine = ({ passage, course, title }: { passage: Passage; course: PracticeConfig; title: string }) => {
  const clean = course.last?.closing.bestCleanBpm ?? null;
  const to = `/bench/${passage.id}?variant=${course.variantId}&section=${course.sectionId}`;
  return (
    <Flex gap="4px 20px" align="baseline" flexWrap="wrap" borderBottom="1px solid" borderColor="rule" paddingY="6px">
      <Text flex="1" minWidth="160px">
        {title}
      </Text>
      <Text color="quiet">
        {clean === null ? 'not clean yet' : `clean at ${bpm(clean)}`} · goal {bpm(course.goalBpm)}
      </Text>
      <Link asChild color="now" textDecoration="underline">
        <RouterLink to={to} aria-label={`Practise ${title}`}>
          practise
        </RouterLink>
      </Link>
    </Flex>
  );
};
