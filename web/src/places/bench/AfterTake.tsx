import { Box, Flex, Heading, Link, Text } from '@chakra-ui/react';
import type { Exercise, LoopEnd } from '@isochron/core';
import { useMemo } from 'react';
import { Link as RouterLink } from 'react-router';
import { Action } from '../../app/Action';
import { Notice } from '../../app/Page';
import { useOutbox } from '../../recorder/outbox';
import { useBench } from '../../stores/bench';
import { useSettings } from '../../stores/settings';
import { Strip } from '../../strip/Strip';
import { bpm } from '../../strip/words';
import { KeyHints } from './KeyHints';
import { useBenchKeys } from './use-bench-keys';

const END_WORDS: Record<LoopEnd, string> = {
  goal: 'The goal is clean.',
  stopped: 'Stopped.',
  pain: 'Stopped, because it hurt.',
  'input-lost': 'Stopped: the sound was lost.',
};

const PAIN_ADVICE =
  'Rest now. Pain, numbness or tingling that stays or comes back is for a doctor or a physiotherapist who treats musicians; Isochron gives no diagnosis.';

/** The Bench after a take: what it came to, and where tomorrow begins. */
export const AfterTake = ({ exercise }: { exercise: Exercise }) => {
  const { loop, takeId, trouble, clear, calibrated } = useBench();
  const settings = useSettings((store) => store.settings);
  const isLogged = useOutbox((outbox) => takeId !== null && outbox.sentIds.includes(takeId));
  const keys = useMemo(() => ({ Enter: clear, PageDown: clear }), [clear]);
  useBenchKeys(keys);
  const { closing, repetitions, ended } = loop;
  const clean = repetitions.filter((repetition) => repetition.verdict.outcome === 'clean').length;
  return (
    <>
      <Heading as="h1" fontFamily="heading" fontWeight="500" fontSize="64px" lineHeight="1.1" data-testid="ended">
        {END_WORDS[ended ?? 'stopped']}
      </Heading>
      <Notice>{trouble}</Notice>
      {ended === 'pain' && <Notice>{PAIN_ADVICE}</Notice>}
      {closing ? (
        <Box fontSize="26px" lineHeight="1.4" marginY="12px" data-testid="closing">
          <Text>
            {repetitions.length} {repetitions.length === 1 ? 'repetition' : 'repetitions'}, {clean} clean
            {closing.bestCleanBpm === null ? '.' : `; the fastest clean one at ${bpm(closing.bestCleanBpm)}.`}
          </Text>
          <Text>
            Tomorrow begins at <b>{bpm(closing.nextStartBpm)}</b>. {closing.nextStartReason}
          </Text>
        </Box>
      ) : (
        <Text fontSize="24px" marginY="12px">
          Nothing was measured, so nothing is logged.
        </Text>
      )}
      <Flex gap="14px" align="center" marginBottom="18px" flexWrap="wrap">
        <Action onClick={clear}>Once more</Action>
        {isLogged && (
          <Link asChild color="now" textDecoration="underline" fontSize="18px">
            <RouterLink to={`/ledger/${takeId}`}>See it in the Ledger</RouterLink>
          </Link>
        )}
        <KeyHints hints={[['Enter', 'once more']]} />
      </Flex>
      <Strip exercise={exercise} repetitions={repetitions} tolerance={settings.tolerance} calibrated={calibrated} />
    </>
  );
};
