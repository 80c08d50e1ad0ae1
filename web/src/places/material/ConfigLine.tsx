import { Flex, Link, Text } from '@chakra-ui/react';
import type { Passage, PracticeConfig } from '@isochron/core/schema';
import { Link as RouterLink } from 'react-router';
import { bpm } from '../../words';

/** What of the measured tempos of its parts a passage page tells, a line a configuration. */
export const ConfigLine = ({ passage, config, title }: { passage: Passage; config: PracticeConfig; title: string }) => {
  const clean = config.last?.summary.bestCleanBpm ?? null;
  const to = `/bench/${passage.id}?variant=${config.variantId}&section=${config.sectionId}`;
  return (
    <Flex gap="4px 20px" align="baseline" flexWrap="wrap" borderBottom="1px solid" borderColor="rule" paddingY="6px">
      <Text flex="1" minWidth="160px">
        {title}
      </Text>
      <Text color="quiet">
        {clean === null ? 'not clean yet' : `clean at ${bpm(clean)}`} · goal {bpm(config.goalBpm)}
      </Text>
      <Link asChild color="now" textDecoration="underline">
        <RouterLink to={to} aria-label={`Practise ${title}`}>
          practise
        </RouterLink>
      </Link>
    </Flex>
  );
};
