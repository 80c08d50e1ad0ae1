import { useEffect, useMemo } from 'react';
import { openScores } from '../../workers/open-worker';

/** The worker that reads and writes notation, for as long as the page is there. */
export const useScores = () => {
  const worker = useMemo(() => openScores(), []);
  useEffect(() => () => worker.end(), [worker]);
  return worker.ask;
};
