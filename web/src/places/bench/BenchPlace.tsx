import { Text } from '@chakra-ui/react';
import { useEffect } from 'react';
import { Navigate, useParams } from 'react-router';
import { useCourses, usePassages } from '../../api/queries';
import { useSettings } from '../../api/settings';
import { Notice, PageTitle } from '../../app/Page';
import { useBench } from '../../stores/bench';
import { useSitting } from '../../stores/sitting';
import { AfterTake } from './AfterTake';
import { BeforeTake } from './BeforeTake';
import { DuringTake } from './DuringTake';

/** The Bench: the loop on one passage, readable from two metres. */
export const BenchPlace = () => {
  const { passageId } = useParams();
  const { passages, ...fetched } = usePassages();
  const courses = useCourses();
  const settings = useSettings();
  const sitting = useSitting((store) => store.sitting);
  const phase = useBench((bench) => bench.loop.phase);
  const clear = useBench((bench) => bench.clear);
  const passage = passages.find((one) => one.id === passageId);
  const title = passage?.title ?? 'Bench';

  useEffect(() => {
    document.title = `${title} · Isochron`;
  }, [title]);
  // Another passage begins afresh; leaving the Bench stops the take.
  // biome-ignore lint/correctness/useExhaustiveDependencies: the passage's id is what the Bench is set up for.
  useEffect(() => {
    clear();
    return () => useBench.getState().send({ type: 'stop' });
  }, [passageId, clear]);

  const message = fetched.message || courses.message || (settings.loaded ? '' : settings.message);
  if (message) return <Notice>{message}</Notice>;
  if (fetched.isLoading || courses.isLoading || !settings.loaded) return <Text>Fetching your material …</Text>;
  if (!passageId) {
    const latest = sitting?.blocks.at(-1)?.course.passageId ?? latestOf(courses.courses) ?? passages[0]?.id;
    return latest ? (
      <Navigate to={`/bench/${latest}`} replace />
    ) : (
      <Notice>There is no passage yet. Choose one in Material.</Notice>
    );
  }
  if (!passage) {
    return (
      <>
        <PageTitle title="No such passage" />
        <Notice>Choose one in Material.</Notice>
      </>
    );
  }
  if (phase === 'idle') return <BeforeTake key={passage.id} passage={passage} />;
  if (phase === 'finished') return <AfterTake passage={passage} />;
  return <DuringTake passage={passage} />;
};

/** The passage that was played last. */
const latestOf = (courses: readonly { passageId: string; last: { startedAt: string } | null }[]): string | undefined =>
  [...courses].sort((a, b) => (b.last?.startedAt ?? '').localeCompare(a.last?.startedAt ?? ''))[0]?.passageId;
