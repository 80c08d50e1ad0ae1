import { nowMs, type RunBlock } from '@isochron/core/schema';
import { isAtWork, restLeftMs, runBlock } from '@isochron/core/strategy';
import { useEffect, useState } from 'react';
import { useRun } from '../../stores/run';

const LOOK_MS = 500;

/** The time, as often as is worth a look. */
export const useNow = (): number => {
  const [now, setNow] = useState(() => nowMs());
  useEffect(() => {
    const look = setInterval(() => setNow(nowMs()), LOOK_MS);
    return () => clearInterval(look);
  }, []);
  return now;
};

/** Where the Bench stands for a block of a run. */
export const blockPath = ({ config }: Pick<RunBlock, 'config'>): string =>
  `/bench/${config.passageId}?variant=${config.variantId}&section=${config.sectionId}`;

/** Whether a configuration is what a run has at work now, and is not held. */
export const useIsRunning = (config: Parameters<typeof isAtWork>[1]): boolean =>
  useRun(({ run }) => run !== null && run.resumedAtMs !== null && isAtWork(run, config));

/** The block of a run that a configuration is at work for, held or not; null outside of one. */
export const useBlockAtWork = (config: Parameters<typeof isAtWork>[1]): RunBlock | null =>
  useRun(({ run }) => (run && isAtWork(run, config) ? runBlock(run) : null));

/** The break that is left before the block at work, in seconds, as it was when this was first drawn. */
export const useRestS = (): number => {
  const [restS] = useState(() => {
    const { run } = useRun.getState();
    return run ? Math.ceil(restLeftMs(run, nowMs()) / 1000) : 0;
  });
  return restS;
};

/** Keeps the screen awake while this is on, where the browser can. */
export const useAwake = (on: boolean): void => {
  useEffect(() => {
    if (!on || !('wakeLock' in navigator)) return;
    let lock: WakeLockSentinel | null = null;
    let isOver = false;
    const take = () =>
      navigator.wakeLock.request('screen').then(
        (taken) => {
          lock = taken;
          if (isOver) void taken.release();
        },
        // A low battery or a hidden page: practice goes on without it.
        () => {},
      );
    const again = () => {
      if (document.visibilityState === 'visible') void take();
    };
    void take();
    document.addEventListener('visibilitychange', again);
    return () => {
      isOver = true;
      document.removeEventListener('visibilitychange', again);
      void lock?.release();
    };
  }, [on]);
};
