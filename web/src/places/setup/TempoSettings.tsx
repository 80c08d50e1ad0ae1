import { Box, Flex, Text } from '@chakra-ui/react';
import { HALF_SPEED_CLIMB as school } from '@isochron/core';
import { z } from 'zod';
import { NumberField, YesNoField } from '../../app/fields';
import { useSettings } from '../../stores/settings';

const LevelSchema = z.number({ message: 'A number from 0 to 100.' }).min(0, 'Not under 0.').max(100, 'Not over 100.');

/** The tempo school (one so far), how loud the click is, and whether decisions are heard. */
export const TempoSettings = () => {
  const { settings, change } = useSettings();
  return (
    <Flex gap="34px" flexWrap="wrap" align="flex-start">
      <Box maxWidth="420px">
        <Text fontSize="16px" fontWeight="600">
          Tempo school
        </Text>
        <Text>{school.name}</Text>
        <Text color="quiet" fontSize="15px">
          {school.about}
        </Text>
      </Box>
      <NumberField
        label="Click level"
        unit="0 to 100"
        value={Math.round(settings.clickLevel * 100)}
        schema={LevelSchema}
        onChange={(level) => void change({ clickLevel: level / 100 })}
      />
      <YesNoField
        label="Announce each decision by a sound"
        value={settings.announce}
        onChange={(announce) => void change({ announce })}
      />
    </Flex>
  );
};
