import { Flex } from '@chakra-ui/react';
import type { PracticeConfig } from '@isochron/core/schema';
import { nowMs } from '@isochron/core/schema';
import { useQuery } from '@tanstack/react-query';
import { usePassageRepetitions } from '../../api/queries/practice';
import { Action } from '../../app/Action';
import { bpm } from '../../words';
import { useTempos } from '../../workers/use-tempos';

interface Props {
  config: Pick<PracticeConfig, 'passageId' | 'variantId' | 'sectionId' | 'goalBpm'>;
  onChoose(bpm: number): void;
}

/** Tempos that the player's own repetitions tell: where it is easy and where the edge is, each taken by one press. Nothing where they tell none. */
export const CurveTempos = ({ config, onChoose }: Props) => {
  const { passageId, variantId, sectionId, goalBpm } = config;
  const { repetitions } = usePassageRepetitions(passageId);
  const { ask, orBroken } = useTempos();
  const curve = useQuery({
    queryKey: ['curve-tempos', passageId, variantId, sectionId, repetitions.length, repetitions.at(-1)?.takeId],
    queryFn: async () =>
      (await orBroken(ask.curves([{ name: '', variantId, sectionId }], repetitions, goalBpm, nowMs()))).curves[0] ?? null,
    enabled: repetitions.length > 0,
  }).data;
  const offered = [
    { name: 'easy', range: curve?.easy, about: 'clean nine times in ten' },
    { name: 'edge', range: curve?.edge, about: 'clean every other time' },
  ].flatMap(({ range, ...one }) => (range ? [{ ...one, bpm: Math.round(range.bpm) }] : []));
  if (repetitions.length === 0) return null;
  return (
    <Flex gap="6px" marginTop="4px" minHeight="28px">
      {offered.map((one) => (
        <Action
          key={one.name}
          quiet
          fontSize="15px"
          padding="2px 10px"
          title={one.about}
          aria-label={`Take the tempo where it is ${one.name === 'easy' ? 'easy' : 'at the edge'}, ${one.about}: ${bpm(one.bpm)}`}
          onClick={() => onChoose(one.bpm)}
        >
          {one.name} {bpm(one.bpm)}
        </Action>
      ))}
    </Flex>
  );
};
