import { Text } from '@chakra-ui/react';
import { useEffect } from 'react';
import { Navigate, useParams } from 'react-router';
import { Notice, PageTitle } from '../../app/Page';
import { useBench } from '../../stores/bench';
import { useLibrary } from '../../stores/library';
import { AfterTake } from './AfterTake';
import { BeforeTake } from './BeforeTake';
import { DuringTake } from './DuringTake';

/** The Bench: the loop on one exercise, readable from two metres. */
export const BenchPlace = () => {
  const { exerciseId } = useParams();
  const { exercises, takes, status, message } = useLibrary();
  const loop = useBench((bench) => bench.loop);
  const clear = useBench((bench) => bench.clear);
  const exercise = exercises.find((one) => one.id === exerciseId);
  const title = exercise?.title ?? 'Bench';

  useEffect(() => {
    document.title = `${title} · Isochron`;
  }, [title]);
  // Another exercise begins afresh; leaving the Bench stops the take.
  // biome-ignore lint/correctness/useExhaustiveDependencies: the exercise's id is what the Bench is set up for.
  useEffect(() => {
    clear();
    return () => useBench.getState().send({ type: 'stop' });
  }, [exerciseId, clear]);

  if (status === 'loading') return <Text>Fetching the exercises …</Text>;
  if (status === 'unreachable') return <Notice>{message}</Notice>;
  if (!exerciseId) {
    const latest = takes[0]?.exerciseId ?? exercises[0]?.id;
    return latest ? (
      <Navigate to={`/bench/${latest}`} replace />
    ) : (
      <Notice>There is no exercise yet. Choose one in Material.</Notice>
    );
  }
  if (!exercise) {
    return (
      <>
        <PageTitle title="No such exercise" />
        <Notice>Choose one in Material.</Notice>
      </>
    );
  }
  if (loop.phase === 'idle') return <BeforeTake exercise={exercise} />;
  if (loop.phase === 'finished') return <AfterTake exercise={exercise} />;
  return <DuringTake exercise={exercise} />;
};
