import {
  enterBlock,
  type LoopSnapshot,
  now,
  type PracticeSession,
  PracticeSessionSchema,
  practiceSessionAt,
  standAt,
} from '@isochron/core';
import { create } from 'zustand';
import { createJSONStorage, persist } from 'zustand/middleware';
import { patientStorage } from './patient-storage';

interface PracticeSessionStore {
  sitting: PracticeSession | null;
}

const NAME = 'isochron-sitting';
const newId = () => crypto.randomUUID();

/** The sitting at the instrument. Kept in the browser at every step, so that a reload goes on where it was. */
export const usePracticeSession = create<PracticeSessionStore>()(
  persist((): PracticeSessionStore => ({ sitting: null }), {
    name: NAME,
    storage: createJSONStorage(() => patientStorage),
    merge: (stored, fresh) => {
      const read = PracticeSessionSchema.safeParse((stored as Partial<PracticeSessionStore> | undefined)?.sitting);
      return { ...fresh, sitting: read.success ? read.data : null };
    },
  }),
);

// A sitting goes on in whichever tab is played: what another one noted is known here.
globalThis.addEventListener?.('storage', (event) => {
  if ((event as StorageEvent).key === NAME) void usePracticeSession.persist.rehydrate();
});

/** The sitting that goes on now; a new one where the last is long over. */
export const presentPracticeSession = (): PracticeSession => {
  const sitting = practiceSessionAt(usePracticeSession.getState().sitting, now(), newId);
  if (sitting !== usePracticeSession.getState().sitting) usePracticeSession.setState({ sitting });
  return sitting;
};

/** A take begins in it. */
export const enter = (block: Parameters<typeof enterBlock>[1], takeId: string): PracticeSession => {
  const sitting = enterBlock(presentPracticeSession(), block, takeId, now());
  usePracticeSession.setState({ sitting });
  return sitting;
};

/** Where the block at work stands now; null once its take has come to its end. */
export const stand = (standing: LoopSnapshot | null): void => {
  const { sitting } = usePracticeSession.getState();
  if (sitting) usePracticeSession.setState({ sitting: standAt(sitting, standing, now()) });
};
