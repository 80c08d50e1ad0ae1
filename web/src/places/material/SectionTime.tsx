import { Text } from '@chakra-ui/react';
import { sectionShares } from '@isochron/core/material';
import type { Passage } from '@isochron/core/schema';
import { useMemo } from 'react';
import { useLatestTakes } from '../../api/queries/takes';
import { useDescribe } from '../../app/use-describe';

/** How the time for a passage is shared out among its sections, by what was measured, and why. */
export const SectionTime = ({ passage }: { passage: Passage }) => {
  const say = useDescribe();
  const takes = useLatestTakes(passage.id);
  const found = useMemo(() => sectionShares(passage, takes), [passage, takes]);
  if (!found) return null;
  const { shares, why } = found;
  return (
    <Text marginTop="8px" maxWidth="80ch" data-testid="section-time">
      {say(why)} Of the time for it:{' '}
      {shares
        .map(({ section, sharePct, isCovered }) => `${section.name} ${isCovered ? 'none of its own' : `${sharePct} %`}`)
        .join(', ')}
      .
    </Text>
  );
};
