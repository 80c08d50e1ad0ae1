import { useEffect, useRef, useState } from 'react';

/** Counts seconds down while it is on, then calls once; gives what is left, or null while it is off. */
export const useCountdown = (on: boolean, fromS: number, then: () => void): number | null => {
  const [left, setLeft] = useState(fromS);
  const call = useRef(then);
  call.current = then;
  useEffect(() => {
    if (!on) return;
    setLeft(fromS);
    const count = setInterval(() => setLeft((before) => Math.max(0, before - 1)), 1000);
    const end = setTimeout(() => call.current(), fromS * 1000);
    return () => {
      clearInterval(count);
      clearTimeout(end);
    };
  }, [on, fromS]);
  return on ? left : null;
};
