import { Text } from '@chakra-ui/react';
import { lastPlayedAt } from '@isochron/core/planning';
import type { PracticeConfig } from '@isochron/core/schema';
import { useEffect, useMemo } from 'react';
import { Navigate, useParams, useSearchParams } from 'react-router';
import type { Fetched } from '../../api/queries/fetched';
import { usePassage, usePassages } from '../../api/queries/passages';
import { usePracticeConfigs } from '../../api/queries/practice';
import { useSettings } from '../../api/settings';
import { Notice } from '../../app/Notice';
import { PageTitle } from '../../app/Page';
import { useBench } from '../../stores/bench';
import { usePracticeSession } from '../../stores/practice-session';
import { AfterTake } from './AfterTake';
import { BeforeTake } from './BeforeTake';
import { DuringTake } from './DuringTake';
import { RunLead } from './RunLead';
import { useAwake } from './use-run';

/** What keeps the Bench from beginning: an answer that never came. One that is only old serves: practice goes on without the server. */
const missing = ({ isKnown, message }: Fetched): string => (isKnown ? '' : message);

/** The Bench: the loop on one passage, readable from two metres. */
export const BenchPlace = () => {
  const { passageId } = useParams();
  const [search] = useSearchParams();
  const variantId = search.get('variant') ?? undefined;
  const sectionId = search.get('section') ?? undefined;
  const part = useMemo(() => ({ variantId, sectionId }), [variantId, sectionId]);
  const { passages, ...fetched } = usePassages();
  const practiceConfigs = usePracticeConfigs();
  const settings = useSettings();
  const session = usePracticeSession((store) => store.session);
  const phase = useBench((bench) => bench.loop.phase);
  const clear = useBench((bench) => bench.clear);
  const { passage, ...whole } = usePassage(passageId);
  const title = passage?.title ?? 'Bench';
  useAwake(phase !== 'idle' && phase !== 'finished');

  useEffect(() => {
    document.title = `${title} · Isochron`;
  }, [title]);
  // Another passage begins afresh; leaving the Bench stops the take.
  // biome-ignore lint/correctness/useExhaustiveDependencies: the passage's id is what the Bench is set up for.
  useEffect(() => {
    clear();
    return () => useBench.getState().send({ type: 'stop' });
  }, [passageId, part, clear]);

  const message =
    missing(fetched) ||
    (passages.some(({ id }) => id === passageId) ? missing(whole) : '') ||
    missing(practiceConfigs) ||
    (settings.loaded ? '' : settings.message);
  if (message) return <Notice>{message}</Notice>;
  if (fetched.isLoading || whole.isLoading || practiceConfigs.isLoading || !settings.loaded)
    return <Text>Fetching your material …</Text>;
  if (!passageId) {
    const latest = session?.blocks.at(-1)?.config.passageId ?? latestOf(practiceConfigs.practiceConfigs) ?? passages[0]?.id;
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
  return (
    <>
      <RunLead />
      {phase === 'idle' ? (
        <BeforeTake key={`${passage.id}.${variantId}.${sectionId}`} passage={passage} part={part} />
      ) : phase === 'finished' ? (
        <AfterTake passage={passage} part={part} />
      ) : (
        <DuringTake passage={passage} part={part} />
      )}
    </>
  );
};

/** The passage that was played last. */
const latestOf = (practiceConfigs: readonly PracticeConfig[]): string | undefined =>
  [...practiceConfigs].sort((a, b) => lastPlayedAt(b).localeCompare(lastPlayedAt(a)))[0]?.passageId;
