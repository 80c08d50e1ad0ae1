import { Box, Text } from '@chakra-ui/react';
import { MEASURE_WORDS } from '@isochron/core/words';

/** What the measures say, folded away beside the figures. */
export const MeasureWords = () => (
  <Box as="details" marginTop="8px" maxWidth="90ch" className="not-printed">
    <Text as="summary" cursor="pointer" color="quiet">
      What these figures say
    </Text>
    <Box as="dl" paddingTop="6px">
      {Object.entries(MEASURE_WORDS).map(([name, words]) => (
        <Box key={name} paddingY="3px">
          <Text as="dt" display="inline" fontWeight="600">
            {name}:{' '}
          </Text>
          <Text as="dd" display="inline">
            {words}
          </Text>
        </Box>
      ))}
    </Box>
  </Box>
);
