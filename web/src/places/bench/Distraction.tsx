import { Box, Flex, Text } from '@chakra-ui/react';
import { mindTaskOf } from '@isochron/core/material';
import { nowMs } from '@isochron/core/schema';
import { useEffect, useState } from 'react';
import { Action } from '../../app/Action';
import { usePageKeys } from '../../app/use-page-keys';

/** Seconds between one step and the next. */
const EVERY_S = 3;

/** Something else to attend to while one plays, step by step; the answer stays hidden until it is asked for. */
export const Distraction = ({ taskId }: { taskId: unknown }) => {
  const [seed] = useState(() => Math.floor(nowMs() / 1000) % 1_000_000);
  const [step, setStep] = useState(0);
  const [isShown, setIsShown] = useState(false);
  const task = mindTaskOf(taskId);
  useEffect(() => {
    const timer = setInterval(() => {
      setStep((before) => before + 1);
      setIsShown(false);
    }, 1000 * EVERY_S);
    return () => clearInterval(timer);
  }, []);
  usePageKeys({ q: () => setIsShown(true) });
  return (
    <Box>
      <Text fontSize="22px">{task.about}</Text>
      <Flex gap="28px" align="center">
        <Text fontFamily="heading" fontSize="56px" lineHeight="1.1" minWidth="180px" data-testid="distraction">
          {task.shown(seed, step)}
        </Text>
        <Action quiet onClick={() => setIsShown(true)}>
          {isShown ? `Until now: ${task.answer(seed, step + 1)}` : 'Show the answer (Q)'}
        </Action>
      </Flex>
    </Box>
  );
};
