import { Flex, Text } from '@chakra-ui/react';
import { mean } from '@isochron/core/analysis';
import { ENGINE_VERSION, type Repetition, type Take } from '@isochron/core/schema';
import { useEarlier } from '../../../api/queries/takes';
import { useReanalysis } from '../../../api/queries/upkeep';
import { Action } from '../../../app/Action';
import { Notice } from '../../../app/Notice';
import { Part } from '../../../app/Page';
import { figure } from '../../../words';

const summary = (repetitions: readonly Repetition[]): string => {
  const spreads = repetitions.flatMap(({ measures }) => measures.spreadMs?.value ?? []);
  const clean = repetitions.filter(({ verdict }) => verdict.outcome === 'clean').length;
  return `${clean} of ${repetitions.length} clean, mean spread ${spreads.length ? figure(mean(spreads), 'ms') : '–'}`;
};

/** Which engine measured a take, what earlier ones said, and measuring it anew. */
export const EnginePart = ({ take }: { take: Take }) => {
  const earlier = useEarlier(take.id);
  const { state, trouble, start, cancel } = useReanalysis();
  return (
    <Part title="How it was measured" id="measured" onScreen>
      <Text>
        Measured by version {take.engine}
        {take.engine === ENGINE_VERSION ? ', the present one' : `; the present one is ${ENGINE_VERSION}`}:{' '}
        {summary(take.repetitions)}.
      </Text>
      {earlier.map((one) => (
        <Text key={one.replacedAt} color="quiet">
          Before, by version {one.engine}: {summary(one.repetitions)}.
        </Text>
      ))}
      {take.hasRecording && (
        <Flex gap="14px" align="center" marginTop="8px">
          {state?.running ? (
            <>
              <Text role="status">Measuring again …</Text>
              <Action quiet onClick={cancel}>
                Stop
              </Action>
            </>
          ) : (
            <Action quiet onClick={() => start(take.id)}>
              Measure the recording again
            </Action>
          )}
        </Flex>
      )}
      <Notice>{trouble}</Notice>
    </Part>
  );
};
