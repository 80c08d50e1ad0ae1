import { Flex, Text } from '@chakra-ui/react';
import { useLocation, useNavigate } from 'react-router';
import { useSettings } from '../../api/settings';
import { Action } from '../../app/Action';
import { LevelBar } from '../../app/LevelBar';
import { usePageKeys } from '../../app/use-page-keys';
import { inputOf } from '../../audio/inputs/inputs';
import { useBench } from '../../stores/bench';

/** The address at which the Bench opens on its inputs. */
export const HEARD_BY = '#heard-by';

/** Where a whole repetition was not heard: which input listens, what it hears now, and one key to another. */
export const NothingHeard = () => {
  const { settings } = useSettings();
  const navigate = useNavigate();
  const { search } = useLocation();
  const peakDb = useBench((bench) => bench.peakDb);
  const send = useBench((bench) => bench.send);
  const source = inputOf(settings.input);
  const change = () => {
    send({ type: 'stop' });
    // Once the take is over, the Bench opens there.
    void navigate({ search, hash: HEARD_BY }, { replace: true });
  };
  usePageKeys({ h: change });
  return (
    <Flex
      gap="6px 20px"
      align="center"
      flexWrap="wrap"
      borderLeft="4px solid"
      borderColor="now"
      paddingLeft="14px"
      data-testid="nothing-heard"
    >
      <Text fontSize="20px">
        Listening through: <b>{source.name}</b>
      </Text>
      {peakDb !== null && <LevelBar peakDb={peakDb} />}
      <Action quiet onClick={change}>
        Another input (H)
      </Action>
    </Flex>
  );
};
