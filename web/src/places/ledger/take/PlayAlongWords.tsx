import { Text } from '@chakra-ui/react';
import { playAlongReason } from '@isochron/core/material';
import { askedBpm } from '@isochron/core/planning';
import type { Repetition, Take } from '@isochron/core/schema';
import { useDescribe } from '../../../app/use-describe';

/** What a recording that was played along with has to do with the figures of a repetition. */
export const PlayAlongWords = ({ take, repetition }: { take: Take; repetition: Repetition | undefined }) => {
  const say = useDescribe();
  const playAlong = repetition && take.drills[repetition.drill]?.playAlong;
  if (!playAlong) return null;
  return (
    <Text color="quiet" maxWidth="80ch" data-testid="along">
      Last repetition: {say(playAlongReason(playAlong, askedBpm(repetition), repetition.measures.spreadMs?.value ?? null))}
    </Text>
  );
};
