import { Flex, Text } from '@chakra-ui/react';
import { drillsForSpot } from '@isochron/core/material';
import type { Selection } from '@isochron/core/planning';
import type { Passage } from '@isochron/core/schema';
import { suspectStep } from '@isochron/core/strategy';
import { usePracticeConfig } from '../../api/queries/practice';
import { Action } from '../../app/Action';
import { useDescribe } from '../../app/use-describe';
import { usePageKeys } from '../../app/use-page-keys';
import { useBench } from '../../stores/bench';
import { usePractise } from './use-practise';

/** While the loop pauses to think: drills for the step that went wrong again and again, the first one by a single key. */
export const PauseDrills = ({ passage, part }: { passage: Passage; part: Selection }) => {
  const say = useDescribe();
  const { config } = usePracticeConfig(passage, part);
  const practise = usePractise();
  const loop = useBench((bench) => bench.loop);
  const send = useBench((bench) => bench.send);
  const step = suspectStep(loop.repetitions);
  const offered = step && loop.drill ? drillsForSpot(loop.drill.grid.events.length, step.fromIndex + 1) : [];
  const take = (k: number) => {
    const uses = offered[k]?.uses;
    if (!uses) return;
    send({ type: 'stop' });
    void practise(config, uses);
  };
  usePageKeys({ d: () => take(0) });
  return (
    <>
      {offered.map(({ why }, k) => (
        <Flex key={why.code} gap="4px 18px" align="baseline" flexWrap="wrap" paddingY="4px" fontSize="19px">
          <Text flex="1" minWidth="240px">
            {say(why)}
          </Text>
          <Action quiet fontSize="16px" paddingY="2px" onClick={() => take(k)}>
            Practise this{k === 0 ? ' (D)' : ''}
          </Action>
        </Flex>
      ))}
    </>
  );
};
