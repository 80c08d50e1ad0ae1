import { Text } from '@chakra-ui/react';
import { useEffect, useState } from 'react';

/** Seconds between one number and the next. */
const EVERY_S = 3;
const START = 300;
const STEP = 7;

/** Something else to attend to: count down in sevens, aloud; the screen goes along so that one can look where one is. */
export const Distraction = () => {
  const [count, setCount] = useState(0);
  useEffect(() => {
    const timer = setInterval(() => setCount((before) => before + 1), 1000 * EVERY_S);
    return () => clearInterval(timer);
  }, []);
  const number = START - STEP * (count % Math.floor(START / STEP));
  return (
    <Text fontFamily="heading" fontSize="40px" data-testid="distraction">
      Count down in sevens, aloud: {number} …
    </Text>
  );
};
