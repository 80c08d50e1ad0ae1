import { Flex, Text } from '@chakra-ui/react';
import { useNavigate } from 'react-router';
import { useHealth } from '../../api/queries/upkeep';
import { useSettings } from '../../api/settings';
import { Action } from '../../app/Action';

/** What a newcomer is told: that this is the demo, and that a first day leads in. */
export const TodayNotes = ({ isFirstDay }: { isFirstDay: boolean }) => {
  const { settings, change } = useSettings();
  const isDemo = useHealth().data?.demo ?? false;
  const navigate = useNavigate();
  return (
    <>
      {isDemo && (
        <Text
          borderLeft="4px solid"
          borderColor="now"
          paddingLeft="14px"
          fontSize="17px"
          maxWidth="80ch"
          className="not-printed"
        >
          This is the demo: ten weeks of made-up practice by a player who does not exist.
          {settings.input === 'simulated' && ' Begin works without an instrument: the simulated player plays.'}
        </Text>
      )}
      {isFirstDay && settings.firstDay === 'to-come' && (
        <Flex gap="14px" align="center" flexWrap="wrap" marginY="12px" className="not-printed">
          <Text fontSize="20px">New here? Two short steps lead to a first take.</Text>
          <Action onClick={() => navigate('/first-day')}>Show me</Action>
          <Action quiet onClick={() => void change({ firstDay: 'over' })}>
            Not needed
          </Action>
        </Flex>
      )}
    </>
  );
};
