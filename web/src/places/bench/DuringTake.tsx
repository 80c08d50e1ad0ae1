import { Box, Flex, Grid, Text } from '@chakra-ui/react';
import { isWithoutClick } from '@isochron/core/material';
import type { Selection } from '@isochron/core/planning';
import type { Passage } from '@isochron/core/schema';
import { chosenCount, problemQuestions } from '@isochron/core/strategy';
import { useDeferredValue, useMemo } from 'react';
import { useShallow } from 'zustand/react/shallow';
import { useToldEase } from '../../api/light-day';
import { useSettings } from '../../api/settings';
import { Action } from '../../app/Action';
import { Notice } from '../../app/Notice';
import { useDescribe } from '../../app/use-describe';
import { TAP_EVENT } from '../../audio/inputs/tap';
import { useBench } from '../../stores/bench';
import { tempoWords } from '../../words';
import { AFTER_BREAK_WORDS, nextAfterBreak } from './after-break';
import { BlockWords } from './BlockWords';
import { Distraction } from './Distraction';
import { easeActs, easeHints } from './ease-keys';
import { Figures } from './Figures';
import { FollowedStrip } from './FollowedStrip';
import { KeyHints } from './KeyHints';
import { NothingHeard } from './NothingHeard';
import { PauseDrills } from './PauseDrills';
import { RestReminder } from './RestReminder';
import { TempoNow } from './TempoNow';
import { type BenchActs, useBenchKeys } from './use-bench-keys';
import { VerdictLine } from './VerdictLine';

const COUNT_IN_WORDS = ['one bar', 'two bars', 'three bars', 'four bars'];
const ROWS_SHOWN = 8;

/** The Bench while a take is on: tempo, verdict and reason large; the strip over the whole width. */
export const DuringTake = ({ passage, part }: { passage: Passage; part: Selection }) => {
  const say = useDescribe();
  // The level changes ten times a second: what is drawn large does not hang on it.
  const { loop, send, remark, trouble, calibrated } = useBench(
    useShallow((bench) => ({
      loop: bench.loop,
      send: bench.send,
      remark: bench.remark,
      trouble: bench.trouble,
      calibrated: bench.calibrated,
    })),
  );
  // The verdict is on screen first; what stands around it follows.
  const calmLoop = useDeferredValue(loop);
  const calmLast = calmLoop.repetitions.at(-1);
  const { settings } = useSettings();
  const last = loop.repetitions.at(-1);
  const shown = useMemo(
    () => loop.repetitions.filter(({ drill }) => loop.drills[drill] === loop.drill).slice(-ROWS_SHOWN),
    [loop.repetitions, loop.drills, loop.drill],
  );
  const hasDrills = chosenCount(loop.drills) > 1;
  const stepBpm = Number(loop.decisions.strategy.options.stepBpm ?? 5);

  const afterBreak = loop.target.afterBreak ?? 'beginning';
  const hasBroken = loop.repetitions.some(({ measures }) => measures.brokenOff);
  const tellEase = useToldEase(send);
  const acts = useMemo(
    (): BenchActs => ({
      stop: () => send({ type: 'stop' }),
      again: () => send({ type: 'again' }),
      faster: () => send({ type: 'wish', changeBpm: stepBpm }),
      slower: () => send({ type: 'wish', changeBpm: -stepBpm }),
      begin: () => send({ type: 'resume' }),
      finish: () => send({ type: 'finish' }),
      ...(hasBroken ? { afterBreak: () => send({ type: 'after-break', how: nextAfterBreak(afterBreak) }) } : {}),
      ...(hasDrills ? { next: () => send({ type: 'drill', step: 1 }), before: () => send({ type: 'drill', step: -1 }) } : {}),
      ...easeActs(tellEase),
    }),
    [send, tellEase, stepBpm, hasDrills, hasBroken, afterBreak],
  );
  useBenchKeys(acts);
  const givenEase = last?.ease ?? null;
  const hints = useMemo(
    () => [
      { keyName: '↑', does: 'faster', act: acts.faster },
      { keyName: '↓', does: 'slower', act: acts.slower },
      ...(acts.next ? [{ keyName: 'N', does: 'next drill', act: acts.next }] : []),
      ...(acts.before ? [{ keyName: 'P', does: 'the one before', act: acts.before }] : []),
      ...(acts.afterBreak
        ? [{ keyName: 'B', does: `broken off: ${AFTER_BREAK_WORDS[afterBreak]}`, act: acts.afterBreak }]
        : []),
      { keyName: 'R', does: 'finish loose', act: acts.finish },
      ...easeHints(tellEase, givenEase),
      { keyName: 'A', does: 'again', act: acts.again },
      { keyName: 'Esc', does: 'stop', act: acts.stop },
    ],
    [acts, afterBreak, tellEase, givenEase],
  );

  return (
    <Flex direction="column" gap="12px">
      <Grid
        templateColumns={{ base: 'minmax(0, 1fr)', md: '200px minmax(0, 1fr)', xl: '236px minmax(0, 1fr) 220px' }}
        gap={{ base: '6px 20px', md: '12px 36px' }}
      >
        <TempoNow passage={passage} />
        <Box minHeight={{ base: 0, md: '168px' }}>
          {last ? (
            <VerdictLine repetition={last} />
          ) : (
            <Text fontFamily="heading" fontSize={{ base: '30px', md: '40px' }} lineHeight="1.2" maxWidth="22ch">
              Listen for {COUNT_IN_WORDS[(loop.drill?.click.countInBars ?? 1) - 1]}, then{' '}
              {loop.drill && isWithoutClick(loop.drill) ? 'play on alone.' : 'play.'}
            </Text>
          )}
        </Box>
        <Box display={{ base: 'none', md: 'block' }} gridColumn={{ md: '2', xl: 'auto' }}>
          <BlockWords passage={passage} loop={calmLoop} />
        </Box>
      </Grid>
      <Notice>{trouble || remark}</Notice>
      {last?.verdict.reason === 'silence' && <NothingHeard />}
      {loop.phase === 'problem' && <RestReminder />}
      {loop.phase === 'problem' && (
        <Box as="ol" paddingLeft="26px" fontSize="24px" aria-label="Questions worth asking" listStyleType="decimal">
          {problemQuestions(loop.repetitions, loop.drills[last?.drill ?? -1]).map((question) => (
            <li key={question.code}>{say(question)}</li>
          ))}
        </Box>
      )}
      {loop.phase === 'problem' && <PauseDrills passage={passage} part={part} />}
      {loop.drill?.distraction && loop.phase !== 'problem' && <Distraction taskId={loop.drill.method.parameters.task} />}
      {calmLast && calmLoop.phase !== 'problem' && <Figures measures={calmLast.measures} calibrated={calibrated} />}
      {loop.drill && (
        <FollowedStrip
          title={passage.title}
          grid={loop.drill.grid}
          repetitions={shown}
          tolerance={settings.tolerance}
          calibrated={calibrated}
        />
      )}
      {settings.input === 'tap' && (
        <Box
          as="button"
          aria-label="Tap pad: tap here or press the space bar"
          width="100%"
          height="130px"
          border="1px dashed"
          borderColor="quiet"
          fontFamily="heading"
          fontSize="24px"
          onPointerDown={(event) => window.dispatchEvent(new CustomEvent(TAP_EVENT, { detail: event.timeStamp }))}
        >
          tap here, or the space bar
        </Box>
      )}
      <Flex justify="space-between" align="center" gap="12px 20px" flexWrap="wrap" order={4}>
        <KeyHints hints={hints} />
        <Flex gap="12px">
          {loop.phase === 'problem' && (
            <Action onClick={() => send({ type: 'resume' })}>Go on at {tempoWords(loop.tempo)}</Action>
          )}
          <Action quiet onClick={() => send({ type: 'stop' })}>
            Stop
          </Action>
        </Flex>
      </Flex>
    </Flex>
  );
};
