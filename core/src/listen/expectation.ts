import type { AnalysisContext } from '../measure/analyse-repetition';
import type { RepetitionPlan } from '../time/repetition-plan';

/** A repetition to listen for. Times are seconds on the audio clock. */
export type Expectation = Omit<AnalysisContext, 'gap' | 'clickMasks' | 'plan'> & {
  plan: RepetitionPlan;
  repetition: number;
  /** False for inputs that cannot hear the click: nothing is learnt or subtracted. */
  hearsClicks: boolean;
  /** Where nothing was played until then, it is counted on: seconds on the audio clock; left out where it is not waited. */
  waitUntilS?: number;
  /** Whether it follows one that was counted on: of its own count-in hardly anything is heard. */
  isCountedOn?: boolean;
};
