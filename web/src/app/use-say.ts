import { type Reader, say, type Why } from '@isochron/core';
import { useMemo } from 'react';
import { useSettings } from '../api/settings';

/** Makes sentences for the player who reads: note names as set. */
export const useSay = (): ((why: Why) => string) => {
  const { noteNaming } = useSettings().settings;
  return useMemo(() => {
    const reader: Reader = { noteNaming };
    return (why: Why) => say(why, reader);
  }, [noteNaming]);
};
