import { isAfterPain } from '@isochron/core/planning';
import { type Ease, localDay, now } from '@isochron/core/schema';
import { useCallback } from 'react';
import { useSettings } from './settings';

/** Whether today is a light day, because it hurt lately. */
export const useLightDay = (): boolean => isAfterPain(useSettings().settings.lastPainDay, localDay(now()));

/** Tells an answer about ease on, and remembers the day where it was that it hurt. */
export const useToldEase = (send: (event: { type: 'ease'; ease: Ease }) => void): ((ease: Ease) => void) => {
  const { change } = useSettings();
  return useCallback(
    (ease) => {
      send({ type: 'ease', ease });
      if (ease === 'pain') void change({ lastPainDay: localDay(now()) });
    },
    [send, change],
  );
};
