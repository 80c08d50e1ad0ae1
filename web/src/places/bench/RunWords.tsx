import { Text } from '@chakra-ui/react';
import type { SessionRun } from '@isochron/core/schema';
import { blockAfter, leftMs, runBlock } from '@isochron/core/strategy';
import { useDescribe } from '../../app/use-describe';
import { useRun } from '../../stores/run';
import { useNow } from './use-run';

/** A time to wait, in minutes and seconds. */
export const minutesWords = (seconds: number): string =>
  `${Math.floor(seconds / 60)}:${String(seconds % 60).padStart(2, '0')} min`;

/** What is left of a time box, in words. */
const leftWords = (run: SessionRun, nowMs: number): string => {
  const left = leftMs(run, nowMs);
  if (left === 0) return 'the time is up';
  const minutes = Math.ceil(left / 60_000);
  return left < 60_000 ? 'less than a minute left' : `${minutes} ${minutes === 1 ? 'minute' : 'minutes'} left`;
};

/** Which block of a run it is, how long still, and what comes next; nothing where none is on. */
export const RunWords = () => {
  const run = useRun((store) => store.run);
  const now = useNow();
  const say = useDescribe();
  if (!run) return null;
  const next = blockAfter(run);
  return (
    <Text color="ink" fontSize="20px" lineHeight="1.3" data-testid="run">
      block {run.index + 1} of {run.blocks.length} · {leftWords(run, now)}
      <br />
      {next ? `then ${next.restMin > 0 ? `a break, then ` : ''}${next.title}` : 'the last one'}
      <Text as="span" display="block" color="quiet" fontSize="17px">
        {say(runBlock(run).why)}
      </Text>
    </Text>
  );
};
