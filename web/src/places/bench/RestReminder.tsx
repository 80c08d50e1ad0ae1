import { Text } from '@chakra-ui/react';
import { useSettings } from '../../api/settings';
import { useRestDue } from '../../stores/stretch';

/** That a rest is due, said once it is, where nothing is played. */
export const RestReminder = () => {
  const { settings } = useSettings();
  const minutes = useRestDue(settings.breakAfterMin);
  if (minutes === null) return null;
  return (
    <Text
      role="status"
      borderLeft="4px solid"
      borderColor="now"
      paddingLeft="14px"
      marginY="12px"
      fontSize="19px"
      data-testid="rest"
    >
      {minutes} minutes without a rest. Put the instrument down for five minutes; what you played is kept.
    </Text>
  );
};
