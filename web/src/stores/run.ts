import { nowMs, type RunBlock, type SessionRun, SessionRunSchema, withPresentNames } from '@isochron/core/schema';
import { beginRun, isOfToday, nextInRun, pauseRun, resumeRun } from '@isochron/core/strategy';
import { create } from 'zustand';
import { createJSONStorage, persist } from 'zustand/middleware';
import { patientStorage } from './patient-storage';

interface RunStore {
  run: SessionRun | null;
}

/** The blocks that run one after the other. Kept in the browser, so that a reload goes on in the same block. */
export const useRun = create<RunStore>()(
  persist((): RunStore => ({ run: null }), {
    name: 'isochron-run',
    storage: createJSONStorage(() => patientStorage),
    merge: (stored, fresh) => {
      const read = SessionRunSchema.safeParse((withPresentNames(stored) as Partial<RunStore> | undefined)?.run);
      return { ...fresh, run: read.success && isOfToday(read.data, nowMs()) ? read.data : null };
    },
  }),
);

const change = (to: (run: SessionRun, nowMs: number) => SessionRun | null): void => {
  const { run } = useRun.getState();
  if (run) useRun.setState({ run: to(run, nowMs()) });
};

export const startRun = (blocks: readonly RunBlock[]): void => {
  useRun.setState({ run: beginRun(blocks, nowMs()) });
};
export const holdRun = (): void => change(pauseRun);
export const goOnRun = (): void => change(resumeRun);
export const nextBlock = (): void => change(nextInRun);
export const endRun = (): void => {
  useRun.setState({ run: null });
};
