import { lineOf } from '../plan/practice-config';
import { type StartTempo, startTempo, strategyStartTempo } from '../plan/start-tempo';
import type { PracticeConfig } from '../schema/practice-config';
import { beginStrategy, strategyStart } from '../strategies/strategies';

/** Where the next take of a configuration begins: where its strategy says, or where the last take left it; never above the goal. */
export const configuredStart = (config: PracticeConfig, goalBpm = config.goalBpm): StartTempo => {
  const { strategies, last } = lineOf(config);
  const own = strategyStart(beginStrategy(config.strategyId, strategies[config.strategyId] ?? null));
  return own === null ? startTempo(goalBpm, last?.summary ?? null) : strategyStartTempo(own, goalBpm);
};
