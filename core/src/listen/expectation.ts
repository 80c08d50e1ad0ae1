import type { AnalysisContext } from '../measure/analyse-repetition';
import type { RepetitionPlan } from '../time/repetition-plan';

/** A repetition to listen for. Times are seconds on the audio clock. */
export type Expectation = Omit<AnalysisContext, 'gap' | 'clickMasks' | 'plan'> & {
  plan: RepetitionPlan;
  repetition: number;
  /** False for inputs that cannot hear the click: nothing is learnt or subtracted. */
  hearsClicks: boolean;
};
