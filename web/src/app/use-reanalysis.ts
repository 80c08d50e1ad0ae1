import type { Reanalysis } from '@isochron/core';
import { useCallback, useEffect, useState } from 'react';
import { cancelReanalysis, getReanalysis, startReanalysis } from '../api/client';

const LOOK_EVERY_MS = 500;

/** How the server's re-analysis gets on, followed while it runs; `onDone` is told when it has come to an end. */
export const useReanalysis = (onDone: () => void = () => {}) => {
  const [state, setState] = useState<Reanalysis | null>(null);
  const [trouble, setTrouble] = useState('');
  const running = state?.running ?? false;
  const look = useCallback(async () => {
    try {
      setState(await getReanalysis());
    } catch (error) {
      setTrouble((error as Error).message);
    }
  }, []);
  const act = useCallback(
    async (action: () => Promise<void>) => {
      setTrouble('');
      try {
        await action();
      } catch (error) {
        setTrouble((error as Error).message);
      }
      await look();
    },
    [look],
  );
  useEffect(() => void look(), [look]);
  useEffect(() => {
    if (!running) return;
    const timer = setInterval(look, LOOK_EVERY_MS);
    return () => {
      clearInterval(timer);
      onDone();
    };
  }, [running, look, onDone]);
  return {
    state,
    trouble: trouble || (state?.message ?? ''),
    start: (takeId?: string) => act(() => startReanalysis(takeId)),
    cancel: () => act(cancelReanalysis),
  };
};
