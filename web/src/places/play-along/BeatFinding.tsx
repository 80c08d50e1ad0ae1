import { Flex, Text } from '@chakra-ui/react';
import { Action } from '../../app/Action';
import type { useBeatFinder } from './use-beats';

/** How the search for the beats gets on, or how to begin it where they are not known. */
export const BeatFinding = ({ finder, isKnown }: { finder: ReturnType<typeof useBeatFinder>; isKnown: boolean }) => {
  if (finder.share === null && isKnown) return null;
  return (
    <Flex gap="16px" align="center" marginBottom="12px" role="status">
      {finder.share === null ? (
        <>
          <Text>Its beats are not known yet.</Text>
          <Action quiet onClick={finder.again}>
            Listen for its beats
          </Action>
        </>
      ) : (
        <>
          <Text>
            {finder.share < 1
              ? `Listening for its beats: ${Math.round(100 * finder.share)} %.`
              : 'Finding the beats in what was heard …'}
          </Text>
          <Action quiet onClick={finder.stop}>
            Stop
          </Action>
        </>
      )}
    </Flex>
  );
};
