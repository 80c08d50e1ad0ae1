import { Flex, Heading, Link, Text } from '@chakra-ui/react';
import { distractionCost } from '@isochron/core/analysis';
import { type Selection as PartOfPassage, practiceConfigOf, takeReason } from '@isochron/core/planning';
import type { Passage } from '@isochron/core/schema';
import type { LoopEnd } from '@isochron/core/strategy';
import { PAIN_ADVICE } from '@isochron/core/words';
import { useEffect, useMemo } from 'react';
import { Link as RouterLink, useLocation } from 'react-router';
import { useToldEase } from '../../api/light-day';
import { usePracticeConfig } from '../../api/queries/practice';
import { useAgainstLastTime, useTake } from '../../api/queries/takes';
import { useSettings } from '../../api/settings';
import { Action } from '../../app/Action';
import { Notice } from '../../app/Notice';
import { useDescribe } from '../../app/use-describe';
import { usePageKeys } from '../../app/use-page-keys';
import { useOutbox } from '../../recorder/outbox';
import { useBench } from '../../stores/bench';
import { endRun, goOnRun, useRun } from '../../stores/run';
import { Strip } from '../../strip/Strip';
import { bpm } from '../../words';
import { DayWords } from './DayWords';
import { easeActs, easeHints } from './ease-keys';
import { KeyHints } from './KeyHints';
import { HEARD_BY } from './NothingHeard';
import { RestReminder } from './RestReminder';
import { RunWords } from './RunWords';
import { useBenchKeys } from './use-bench-keys';

const END_WORDS: Record<LoopEnd, string> = {
  goal: 'The goal is clean.',
  stopped: 'Stopped.',
  pain: 'Stopped, because it hurt.',
  'input-lost': 'Stopped: the sound was lost.',
  relaxed: 'Ended loose.',
  time: 'The time for this is up.',
};

/** The Bench after a take: what it came to, and where it begins next time. */
export const AfterTake = ({ passage, part }: { passage: Passage; part: PartOfPassage }) => {
  const say = useDescribe();
  const { loop, takeId, trouble, clear, send, calibrated } = useBench();
  const { settings } = useSettings();
  const isKept = useOutbox((outbox) => takeId !== null && outbox.sentIds.includes(takeId));
  // Once it is kept, the server says what it came to, and what the one before it had.
  const { take } = useTake(isKept ? takeId : null);
  const against = useAgainstLastTime(take);
  const { hash } = useLocation();
  useEffect(() => {
    if (hash === HEARD_BY) clear();
  }, [hash, clear]);
  const run = useRun((store) => store.run);
  const isHeld = run !== null && run.resumedAtMs === null;
  const again = useMemo(
    () => () => {
      if (isHeld) goOnRun();
      clear();
    },
    [isHeld, clear],
  );
  const { config, change } = usePracticeConfig(passage, part);
  const isDrill = run === null && (config.methodId !== 'straight' || config.alsoMethodId !== null);
  const back = () => {
    change({ methodId: 'straight', alsoMethodId: null });
    clear();
  };
  usePageKeys(isDrill ? { s: back } : {});
  const tellEase = useToldEase(send);
  const acts = useMemo(() => ({ begin: again, ...easeActs(tellEase) }), [again, tellEase]);
  useBenchKeys(acts);
  const { summary, repetitions, ended } = loop;
  // A sweep, a burst, or a place that was taken up again is no repetition of what was chosen.
  const own = repetitions.filter(({ drill: place }) => !loop.drills[place]?.repetitionKind);
  const clean = own.filter((repetition) => repetition.verdict.outcome === 'clean').length;
  const last = repetitions.at(-1);
  const shown = last?.drill ?? 0;
  const cost = useMemo(() => distractionCost(loop.drills, repetitions), [loop.drills, repetitions]);
  const drill = loop.drills[shown];
  return (
    <>
      <Text color="quiet" fontSize="20px" data-testid="ended">
        {END_WORDS[ended ?? 'stopped']}
      </Text>
      <Heading as="h1" fontFamily="heading" fontWeight="500" fontSize={{ base: '30px', md: '44px' }} lineHeight="1.15">
        {summary ? say(against ?? takeReason(summary.bestCleanBpm, undefined)) : 'No notes were heard.'}
      </Heading>
      <RunWords />
      <Notice>{trouble}</Notice>
      <RestReminder />
      {ended === 'pain' && <Notice>{PAIN_ADVICE}</Notice>}
      <Text fontSize={{ base: '20px', md: '26px' }} lineHeight="1.4" marginY="10px" data-testid="summary">
        {summary ? (
          <>
            Next time it begins at <b>{bpm(summary.nextStartBpm)}</b>. {say(summary.nextStartWhy)}
          </>
        ) : (
          'So there is nothing to keep.'
        )}
      </Text>
      {cost && (
        <Text fontSize="20px" marginBottom="12px">
          {say(cost)}
        </Text>
      )}
      <Flex gap="14px" align="center" marginBottom="18px" flexWrap="wrap">
        <Action onClick={again}>{isHeld ? 'Go on' : 'Once more'}</Action>
        {isDrill && (
          <Action quiet onClick={back}>
            Back to the passage (S)
          </Action>
        )}
        {isHeld && (
          <Action quiet onClick={endRun}>
            End the session
          </Action>
        )}
        {isKept && (
          <Link asChild color="now" textDecoration="underline" fontSize="18px">
            <RouterLink to={`/ledger/${takeId}`}>See it in the Ledger</RouterLink>
          </Link>
        )}
        <KeyHints hints={last ? easeHints(tellEase, last.ease) : []} />
      </Flex>
      {drill && (
        <Strip
          title={passage.title}
          grid={drill.grid}
          repetitions={repetitions.filter((repetition) => repetition.drill === shown)}
          tolerance={settings.tolerance}
          calibrated={calibrated}
        />
      )}
      {summary && (
        <Text fontSize="18px" marginTop="6px">
          {own.length} {own.length === 1 ? 'repetition' : 'repetitions'}, {clean} clean.
        </Text>
      )}
      {isKept && <DayWords config={{ ...practiceConfigOf([], passage, settings, part), goalBpm: loop.target.goalBpm }} />}
    </>
  );
};
