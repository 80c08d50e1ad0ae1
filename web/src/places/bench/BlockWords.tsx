import { Box, Heading, Text } from '@chakra-ui/react';
import type { Passage } from '@isochron/core/schema';
import { chosenCount, type LoopState, strategyOf } from '@isochron/core/strategy';
import { drillName } from '@isochron/core/words';
import { memo } from 'react';
import { useSettings } from '../../api/settings';
import { useBench } from '../../stores/bench';
import { bpm, signed } from '../../words';
import { RunWords } from './RunWords';

/** What a strategy asks for in between, and what to do. */
const WAY_WORDS = {
  sweep: 'A sweep: follow the click up; stop where it will not go.',
  burst: 'A burst: one group, as fast as it goes, loose.',
  retake: 'The place where it broke off.',
} as const;

/** The level that comes in, ten times a second: nothing else is drawn anew with it. */
const Level = () => {
  const peakDb = useBench((bench) => bench.peakDb);
  return <Text>input {peakDb === null ? '–' : `${signed(peakDb, 0)} dB`}</Text>;
};

/** What block this is: the right third of the Bench. */
export const BlockWords = memo(({ passage, loop }: { passage: Passage; loop: LoopState }) => {
  const { settings } = useSettings();
  // A sweep is meant to break, a burst to be wild: neither is a failure.
  const own = loop.repetitions.filter(({ drill }) => !loop.drills[drill]?.repetitionKind);
  const clean = own.filter(({ verdict }) => verdict.outcome === 'clean').length;
  const played = own.length;
  const chosen = chosenCount(loop.drills);
  return (
    <Box fontSize="17px" color="quiet" minWidth="200px">
      <Heading as="h1" fontFamily="heading" fontWeight="500" fontSize="22px" lineHeight="1.25" color="ink">
        {passage.title}
      </Heading>
      {loop.drill?.repetitionKind ? (
        <Text color="ink" fontSize="20px" lineHeight="1.25" data-testid="way">
          {WAY_WORDS[loop.drill.repetitionKind]}
        </Text>
      ) : (
        loop.drill &&
        chosen > 1 && (
          <Text color="ink" fontSize="20px" lineHeight="1.25" data-testid="drill">
            {loop.drillIndex + 1} of {chosen}: {drillName(loop.drill, settings)}
          </Text>
        )
      )}
      <RunWords />
      <Text>{strategyOf(loop.decisions.strategy.id).name}</Text>
      <Text>
        goal {bpm(loop.target.goalBpm)} · from {bpm(loop.target.startBpm)}
      </Text>
      {loop.drill?.playAlong && <Text>along with “{loop.drill.playAlong.title}”</Text>}
      <Text>{played === 0 ? 'first repetition' : `${played} played, ${clean} clean`}</Text>
      <Level />
    </Box>
  );
});
