import { enterBlock, now, type Sitting, SittingSchema, type Standing, sittingAt, standAt } from '@isochron/core';
import { create } from 'zustand';
import { createJSONStorage, persist } from 'zustand/middleware';
import { patientStorage } from './patient-storage';

interface SittingStore {
  sitting: Sitting | null;
}

const NAME = 'isochron-sitting';
const newId = () => crypto.randomUUID();

/** The sitting at the instrument. Kept in the browser at every step, so that a reload goes on where it was. */
export const useSitting = create<SittingStore>()(
  persist((): SittingStore => ({ sitting: null }), {
    name: NAME,
    storage: createJSONStorage(() => patientStorage),
    merge: (stored, fresh) => {
      const read = SittingSchema.safeParse((stored as Partial<SittingStore> | undefined)?.sitting);
      return { ...fresh, sitting: read.success ? read.data : null };
    },
  }),
);

// A sitting goes on in whichever tab is played: what another one noted is known here.
globalThis.addEventListener?.('storage', (event) => {
  if ((event as StorageEvent).key === NAME) void useSitting.persist.rehydrate();
});

/** The sitting that goes on now; a new one where the last is long over. */
export const presentSitting = (): Sitting => {
  const sitting = sittingAt(useSitting.getState().sitting, now(), newId);
  if (sitting !== useSitting.getState().sitting) useSitting.setState({ sitting });
  return sitting;
};

/** A take begins in it. */
export const enter = (block: Parameters<typeof enterBlock>[1], takeId: string): Sitting => {
  const sitting = enterBlock(presentSitting(), block, takeId, now());
  useSitting.setState({ sitting });
  return sitting;
};

/** Where the block at work stands now; null once its take has come to its end. */
export const stand = (standing: Standing | null): void => {
  const { sitting } = useSitting.getState();
  if (sitting) useSitting.setState({ sitting: standAt(sitting, standing, now()) });
};
