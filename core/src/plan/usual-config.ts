import type { PracticeConfig, PracticeConfigChange } from '../schema/practice-config';

/** The parts of how something is practised that a player may change from the usual, and how each is put back. */
const PARTS = {
  strategy: ['strategyId', 'overshootPct', 'minRepetitions', 'restBars', 'relaxedFinish'],
  method: ['methodId', 'alsoMethodId', 'rotates'],
  click: ['click', 'playAlong'],
} as const satisfies Record<string, readonly (keyof PracticeConfig & keyof PracticeConfigChange)[]>;

export type ConfigPart = keyof typeof PARTS;

const differs = (a: unknown, b: unknown) => JSON.stringify(a) !== JSON.stringify(b);

/** What puts a configuration back to the usual one, by the part that differs from it; nothing where all is as usual. */
export const changesToUsual = (
  config: PracticeConfig,
  usual: PracticeConfig,
): Partial<Record<ConfigPart, PracticeConfigChange>> =>
  Object.fromEntries(
    Object.entries(PARTS).flatMap(([part, keys]) => {
      const changed = keys.filter((key) => differs(config[key], usual[key]));
      return changed.length ? [[part, Object.fromEntries(changed.map((key) => [key, usual[key]]))]] : [];
    }),
  );
