import { lineOf } from '../plan/practice-config';
import { type StartTempo, startTempo } from '../plan/start-tempo';
import type { PracticeConfig } from '../schema/practice-config';
import { makeReason } from '../schema/reason';
import { beginStrategy, strategyStart } from '../strategies/strategies';
import { clampBpm } from '../time/clamp-tempo';

/** Where the next take of a configuration begins: where its strategy says, or where the last take left it; never above the goal. */
export const configuredStart = (config: PracticeConfig, goalBpm = config.goalBpm): StartTempo => {
  const { strategies, last } = lineOf(config);
  const own = strategyStart(beginStrategy(config.strategyId, strategies[config.strategyId] ?? null));
  if (own === null) return startTempo(goalBpm, last?.summary ?? null);
  const bpm = clampBpm(Math.min(goalBpm, own));
  return { bpm, why: makeReason('start-school', { bpm }) };
};
