import { type LoopSnapshot, now, type PracticeSession, PracticeSessionSchema, withPresentNames } from '@isochron/core/schema';
import { enterBlock, practiceSessionAt, standAt } from '@isochron/core/strategy';
import { create } from 'zustand';
import { createJSONStorage, persist } from 'zustand/middleware';
import { patientStorage } from './patient-storage';

interface PracticeSessionStore {
  session: PracticeSession | null;
}

const NAME = 'isochron-sitting';
const newId = () => crypto.randomUUID();

/** The practice session at the instrument. Kept in the browser at every step, so that a reload goes on where it was. */
export const usePracticeSession = create<PracticeSessionStore>()(
  persist((): PracticeSessionStore => ({ session: null }), {
    name: NAME,
    storage: createJSONStorage(() => patientStorage),
    merge: (stored, fresh) => {
      const read = PracticeSessionSchema.safeParse(
        (withPresentNames(stored) as Partial<PracticeSessionStore> | undefined)?.session,
      );
      return { ...fresh, session: read.success ? read.data : null };
    },
  }),
);

// A practice session goes on in whichever tab is played: what another one noted is known here.
globalThis.addEventListener?.('storage', (event) => {
  if ((event as StorageEvent).key === NAME) void usePracticeSession.persist.rehydrate();
});

/** The practice session that goes on now; a new one where the last is long over. */
export const presentPracticeSession = (): PracticeSession => {
  const session = practiceSessionAt(usePracticeSession.getState().session, now(), newId);
  if (session !== usePracticeSession.getState().session) usePracticeSession.setState({ session });
  return session;
};

/** A take begins in it. */
export const enter = (block: Parameters<typeof enterBlock>[1], takeId: string): PracticeSession => {
  const session = enterBlock(presentPracticeSession(), block, takeId, now());
  usePracticeSession.setState({ session });
  return session;
};

/** Where the block at work stands now; null once its take has come to its end. */
export const stand = (snapshot: LoopSnapshot | null): void => {
  const { session } = usePracticeSession.getState();
  if (session) usePracticeSession.setState({ session: standAt(session, snapshot, now()) });
};
