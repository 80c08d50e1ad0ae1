import type { Reason } from '@isochron/core/schema';
import { describeReason, type Reader } from '@isochron/core/words';
import { useMemo } from 'react';
import { useSettings } from '../api/settings';

/** Makes sentences for the player who reads: note names as set. */
export const useDescribe = (): ((why: Reason) => string) => {
  const { noteNaming } = useSettings().settings;
  return useMemo(() => {
    const reader: Reader = { noteNaming };
    return (why: Reason) => describeReason(why, reader);
  }, [noteNaming]);
};
