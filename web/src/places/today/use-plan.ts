import { planDay, practiceConfigOf } from '@isochron/core/planning';
import { type DayPlan, makeReason, practiceConfigId, practiceConfigKey } from '@isochron/core/schema';
import { useEffect } from 'react';
import { useNavigate } from 'react-router';
import { usePassages } from '../../api/queries/passages';
import { usePracticeConfigs } from '../../api/queries/practice';
import { useSettings } from '../../api/settings';
import { useBench } from '../../stores/bench';
import { showPlan, useDayPlan } from '../../stores/day-plan';
import { startRun } from '../../stores/run';
import { blockPath } from '../bench/use-run';
import { usePlanInput } from './use-plan-input';

/** Today's plan: as it was changed, else made once all is known. */
export const usePlan = (): {
  /** Null until it is made. */
  plan: DayPlan | null;
  /** Makes it again, so long as is asked for. */
  makePlan(minutes?: number): void;
  /** Whether nothing was ever played here; null while that is not known. */
  isFirstDay: boolean | null;
  message: string;
} => {
  const { input, length, message } = usePlanInput();
  const kept = useDayPlan(({ plan }) => plan);
  const makePlan = (minutes?: number) => {
    if (!input) return;
    // What was left out of the plan before this day's comes first.
    const leftOutBefore = kept && kept.day < input.day ? kept.leftOut.map(({ config }) => practiceConfigId(config)) : [];
    const own = minutes === undefined ? length : { minutes, why: makeReason('day-own', { minutes }) };
    showPlan(planDay({ ...input, length: own, leftOutBefore }));
  };
  // A plan from before it hurt is made again.
  const isStale = input !== null && (kept?.day !== input.day || (input.isLight === true && !kept.isLight));
  // biome-ignore lint/correctness/useExhaustiveDependencies: once, when all is known and the day has no plan that holds.
  useEffect(() => {
    if (isStale) makePlan();
  }, [isStale]);
  return {
    plan: kept && kept.day === input?.day ? kept : null,
    makePlan,
    isFirstDay: input ? input.played.length === 0 : null,
    message,
  };
};

/** Begins a plan's blocks, one after the other. */
export const useBeginPlan = (): ((plan: DayPlan) => void) => {
  const navigate = useNavigate();
  return ({ blocks }) => {
    if (!blocks[0]) return;
    // An earlier take that still stands on the Bench is none of this.
    useBench.getState().clear();
    startRun(blocks.map(({ id: _, ...block }) => block));
    void navigate(blockPath(blocks[0]));
  };
};

/** A passage as a block practises it: the whole of it, as it was practised last. */
export const useBlockFor = () => {
  const { passages } = usePassages();
  const { practiceConfigs } = usePracticeConfigs();
  const { settings } = useSettings();
  return (id: string) => {
    const passage = passages.find((one) => one.id === id);
    return passage && { config: practiceConfigKey(practiceConfigOf(practiceConfigs, passage, settings)), title: passage.title };
  };
};
