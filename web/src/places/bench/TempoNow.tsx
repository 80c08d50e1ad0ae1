import { Box, Flex, Text } from '@chakra-ui/react';
import { headlineBpm } from '@isochron/core/material';
import type { Passage } from '@isochron/core/schema';
import { useBench } from '../../stores/bench';
import { bpm, spanWords, tempoWords } from '../../words';
import { useTempoUnit } from './use-tempo-unit';

const PHASE_WORDS = { counting: 'Count-in', playing: 'Play', problem: 'A moment to think', idle: '', finished: '' } as const;

/** The tempo that sounds, readable from two metres, and what is to be done now. */
export const TempoNow = ({ passage }: { passage: Passage }) => {
  const { unit } = useTempoUnit(passage);
  const loop = useBench((bench) => bench.loop);
  const span = loop.wishedBpm === null ? spanWords(loop.plan?.tempo) : null;
  // A drill may be clicked at a share of the tempo that is asked for: what sounds is what is shown.
  const clicked = loop.plan?.tempo.kind === 'constant' && loop.tempo.kind === 'constant' ? loop.plan.tempo : loop.tempo;
  const share = loop.wishedBpm === null && headlineBpm(clicked) !== headlineBpm(loop.tempo);
  return (
    <Flex
      direction={{ base: 'row', md: 'column' }}
      align={{ base: 'flex-end', md: 'flex-start' }}
      gap={{ base: '16px', md: '6px' }}
    >
      <Text
        fontFamily="heading"
        fontSize={span ? { base: '52px', md: '60px', xl: '68px' } : { base: '92px', md: '112px', xl: '132px' }}
        whiteSpace="nowrap"
        lineHeight="0.9"
        data-testid="tempo"
        role="img"
        aria-label={`Tempo ${span ?? tempoWords(clicked)}`}
      >
        {loop.wishedBpm === null ? (span ?? tempoWords(clicked)) : bpm(loop.wishedBpm)}
      </Text>
      {unit.id !== 'beat' && !span && (
        <Text fontSize="17px" color="quiet" data-testid="tempo-in-unit">
          {bpm(Math.round((loop.wishedBpm ?? headlineBpm(clicked)) * unit.perBeat))} {unit.name} a minute
        </Text>
      )}
      <Text fontSize="24px" color="now" fontWeight="600" data-testid="phase">
        {share && (
          <Box as="span" color="quiet">
            for {tempoWords(loop.tempo)} ·{' '}
          </Box>
        )}
        {loop.wishedBpm === null ? PHASE_WORDS[loop.phase] : 'next, by your choice'}
      </Text>
    </Flex>
  );
};
