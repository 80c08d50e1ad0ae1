import { Flex, Text } from '@chakra-ui/react';
import { ENGINE_VERSION } from '@isochron/core/schema';
import { useReanalysis } from '../../api/queries/upkeep';
import { Action } from '../../app/Action';
import { Notice } from '../../app/Notice';

/** Measures stored recordings anew when the engine has become better. */
export const ReanalysisSettings = () => {
  const { state, trouble, start, cancel } = useReanalysis();
  return (
    <>
      <Text maxWidth="80ch">
        Every take remembers which version of the measuring made its figures; this is version {ENGINE_VERSION}. Recordings can
        be measured anew; the old figures are kept beside the new ones, and tempos and decisions stay as they happened.
      </Text>
      <Flex gap="20px" align="center" marginTop="10px">
        {state?.running ? (
          <>
            <Text role="status" fontFamily="heading" fontSize="20px">
              {state.done} of {state.of} measured anew
            </Text>
            <Action quiet onClick={cancel}>
              Stop here
            </Action>
          </>
        ) : (
          <>
            <Text role="status">
              {state === null
                ? 'Looking …'
                : state.due === 0
                  ? 'Every recording is measured by this version.'
                  : `${state.due} recordings were measured by an earlier version.`}
            </Text>
            {state !== null && state.due > 0 && <Action onClick={() => start()}>Measure them again</Action>}
          </>
        )}
      </Flex>
      <Notice>{trouble}</Notice>
    </>
  );
};
