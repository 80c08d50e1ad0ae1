import { Flex, Text } from '@chakra-ui/react';
import { drillsForSpot } from '@isochron/core/material';
import type { Grid, Take } from '@isochron/core/schema';
import { Action } from '../../../app/Action';
import { Part } from '../../../app/Page';
import { useDescribe } from '../../../app/use-describe';
import { usePageKeys } from '../../../app/use-page-keys';
import { usePractise } from '../../bench/use-practise';

/** Drills for the step that was measured to be unsure; the first one by a single key. `index` is the event that the step leads to. */
export const SpotDrills = ({ take, grid, index }: { take: Take; grid: Grid; index: number }) => {
  const say = useDescribe();
  const practise = usePractise();
  const offered = drillsForSpot(grid.events.length, index);
  usePageKeys({ d: () => void practise(take, offered[0]?.uses ?? []) });
  return (
    <Part title="For that spot" onScreen>
      {offered.map(({ uses, why }, k) => (
        <Flex key={why.code} gap="4px 18px" align="baseline" flexWrap="wrap" paddingY="4px">
          <Text flex="1" minWidth="240px">
            {say(why)}
          </Text>
          <Action quiet fontSize="15px" paddingY="2px" onClick={() => void practise(take, uses)}>
            Practise this{k === 0 ? ' (D)' : ''}
          </Action>
        </Flex>
      ))}
    </Part>
  );
};
