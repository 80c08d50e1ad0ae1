import { type DayPlan, DayPlanSchema, withPresentNames } from '@isochron/core/schema';
import { create } from 'zustand';
import { createJSONStorage, persist } from 'zustand/middleware';
import { patientStorage } from './patient-storage';

interface DayPlanStore {
  /** The plan that was looked at last, as the player changed it; of another day, it still says what was left out. */
  plan: DayPlan | null;
}

/** The day's plan. Kept in the browser, so that a reload shows it as it was changed. */
export const useDayPlan = create<DayPlanStore>()(
  persist((): DayPlanStore => ({ plan: null }), {
    name: 'isochron-day',
    storage: createJSONStorage(() => patientStorage),
    merge: (stored, fresh) => {
      const read = DayPlanSchema.safeParse((withPresentNames(stored) as Partial<DayPlanStore> | undefined)?.plan);
      return { ...fresh, plan: read.success ? read.data : null };
    },
  }),
);

// Another tab's changes are shown here, and not overwritten by the next one made here.
globalThis.addEventListener?.('storage', ({ key }: StorageEvent) => {
  if (key === 'isochron-day') void useDayPlan.persist.rehydrate();
});

export const showPlan = (plan: DayPlan): void => {
  useDayPlan.setState({ plan });
};

/** Changes the plan of today, where there is one. */
export const changePlan = (to: (plan: DayPlan) => DayPlan): void => {
  const { plan } = useDayPlan.getState();
  if (plan) showPlan(to(plan));
};
