import { Flex, Text } from '@chakra-ui/react';
import { PAIN_ADVICE } from '@isochron/core/words';

/** What is said of strain and hearing. */
export const Cautions = () => (
  <Flex direction="column" gap="8px" maxWidth="80ch">
    <Text>
      After a repetition say how it felt: 1 easy, 2 working, 3 tense, 0 if it hurts. A tense repetition never raises the tempo;
      pain ends the take. {PAIN_ADVICE}
    </Text>
    <Text>
      Hearing: an hour-long session near 94 dBA already reaches the recommended daily dose (NIOSH: 85 dBA for 8 hours, halved
      for every 3 dB more). Isochron cannot measure absolute loudness without a calibrated microphone.
    </Text>
  </Flex>
);
