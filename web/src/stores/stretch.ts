import { nowMs } from '@isochron/core/schema';
import { playedOn, restDue, type Stretch } from '@isochron/core/strategy';
import { useEffect, useState } from 'react';
import { create } from 'zustand';
import { createJSONStorage, persist } from 'zustand/middleware';
import { patientStorage } from './patient-storage';

/** How long the player has been at it: kept over a reload. */
const useStretch = create<{ stretch: Stretch | null }>()(
  persist((): { stretch: Stretch | null } => ({ stretch: null }), {
    name: 'isochron-stretch',
    storage: createJSONStorage(() => patientStorage),
  }),
);

/** Something was played just now. */
export const notePlayed = (): void => {
  useStretch.setState(({ stretch }) => ({ stretch: playedOn(stretch, nowMs()) }));
};

const LOOK_MS = 10_000;

/** Minutes played without a rest, once one is due; null before. */
export const useRestDue = (afterMin: number): number | null => {
  const stretch = useStretch((store) => store.stretch);
  const [now, setNow] = useState(() => nowMs());
  useEffect(() => {
    const look = setInterval(() => setNow(nowMs()), LOOK_MS);
    return () => clearInterval(look);
  }, []);
  return restDue(stretch, Math.max(now, stretch?.lastMs ?? 0), afterMin);
};
