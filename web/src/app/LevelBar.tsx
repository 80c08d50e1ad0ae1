import { Box, Flex, Text } from '@chakra-ui/react';
import { signed } from '../words';

/** From a whisper to full scale. */
const QUIETEST_DB = -60;
const TOO_LOUD_DB = -1;

/** The level of an input as it is now, in dB under full scale, as a bar and in words. */
export const LevelBar = ({ peakDb }: { peakDb: number }) => {
  const share = Math.max(0, Math.min(1, 1 - peakDb / QUIETEST_DB));
  const words = peakDb < QUIETEST_DB ? 'nothing to hear' : peakDb > TOO_LOUD_DB ? 'too loud' : `${signed(peakDb, 0)} dB`;
  return (
    <Flex align="center" gap="10px">
      <Box
        role="meter"
        aria-label="Level of the input"
        aria-valuemin={QUIETEST_DB}
        aria-valuemax={0}
        aria-valuenow={Math.round(Math.max(QUIETEST_DB, Math.min(0, peakDb)))}
        aria-valuetext={words}
        width="150px"
        height="10px"
        border="1px solid"
        borderColor="quiet"
      >
        <Box height="100%" width={`${100 * share}%`} background={peakDb > TOO_LOUD_DB ? 'ink' : 'now'} />
      </Box>
      <Text fontSize="15px">{words}</Text>
    </Flex>
  );
};
