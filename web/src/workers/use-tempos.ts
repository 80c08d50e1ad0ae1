import { useEffect, useMemo } from 'react';
import { openTempos } from './open-worker';

/** The worker that works out tempos, for as long as what uses it is on the page. A worker that breaks fails what it was asked. */
export const useTempos = () => {
  const worker = useMemo(() => openTempos(), []);
  useEffect(() => () => worker.end(), [worker]);
  return {
    ask: worker.ask,
    orBroken: <Result>(answer: Promise<Result>): Promise<Result> => Promise.race([answer, worker.broken]),
  };
};
