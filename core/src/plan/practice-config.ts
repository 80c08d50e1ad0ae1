import { gridOf } from '../rhythm/grid-of';
import { combinedDrills, methodOf, rotatedDrills } from '../rhythm/methods/methods';
import type { Drill, Grid, MethodUse } from '../schema/grid';
import type { Passage, Section, Variant } from '../schema/passage';
import {
  FIRST_VARIANT,
  type PracticeConfig,
  type PracticeConfigChange,
  practiceConfigId,
  type StrategySnapshot,
  WHOLE,
} from '../schema/practice-config';
import { DEFAULT_SETTINGS, type Settings } from '../schema/settings';
import type { Take } from '../schema/take';

/** As much of a passage as its configurations are told by. */
export interface ConfigurablePassage {
  id: string;
  goalBpm: number;
  variants: readonly { id: string }[];
  sections: readonly { id: string }[];
}

/** The practice configuration of a passage that was never practised: its own goal, the player's usual strategy, straight. */
export const newPracticeConfig = (
  passage: ConfigurablePassage,
  settings: Pick<Settings, 'strategyId' | 'strategyOptions'>,
): PracticeConfig => ({
  passageId: passage.id,
  variantId: passage.variants[0]?.id ?? FIRST_VARIANT,
  sectionId: WHOLE,
  goalBpm: passage.goalBpm,
  goalDay: null,
  strategyId: settings.strategyId,
  strategies: Object.fromEntries(
    Object.entries(settings.strategyOptions).map(([id, options]) => [id, { options, state: null } as StrategySnapshot]),
  ),
  methodId: 'straight',
  methodParameters: {},
  alsoMethodId: null,
  rotates: false,
  click: null,
  last: null,
  others: {},
  overshootPct: 0,
  relaxedFinish: false,
  minRepetitions: 1,
  restBars: 0,
  playAlong: null,
  readiness: {},
});

/** What of a passage is practised: a variant and a section by their ids; the first marks and the whole where nothing is said. */
export interface Selection {
  variantId?: string;
  sectionId?: string;
}

/** The practice configuration of a passage, or of a part of it, as stored, or a new one. */
export const practiceConfigOf = (
  practiceConfigs: readonly PracticeConfig[],
  passage: ConfigurablePassage,
  settings: Pick<Settings, 'strategyId' | 'strategyOptions'>,
  part: Selection = {},
): PracticeConfig => {
  const fresh = newPracticeConfig(passage, settings);
  const variantId = passage.variants.some(({ id }) => id === part.variantId) ? (part.variantId as string) : fresh.variantId;
  const sectionId = passage.sections.some(({ id }) => id === part.sectionId) ? (part.sectionId as string) : WHOLE;
  const own: PracticeConfig = { ...fresh, variantId, sectionId };
  const id = practiceConfigId(own);
  return practiceConfigs.find((config) => practiceConfigId(config) === id) ?? own;
};

/** The variant and the section that a configuration is about; null for unmarked notes, and for the whole. */
const selectionOf = (passage: Passage, config: PracticeConfig): { variant: Variant | null; section: Section | null } => ({
  variant: passage.variants.find(({ id }) => id === config.variantId) ?? null,
  section: passage.sections.find(({ id }) => id === config.sectionId) ?? null,
});

/** The methods that a configuration is practised by, with their parameters. */
const methodsOf = ({ methodId, alsoMethodId, methodParameters }: PracticeConfig): MethodUse[] =>
  [methodId, ...(alsoMethodId && alsoMethodId !== methodId ? [alsoMethodId] : [])].map((id) => ({
    id,
    parameters: methodParameters[id] ?? {},
  }));

/** The drills that a configuration asks for on a day: passage → variant, section → grid → methods → drills, under the configuration's click. */
export const drillsOfConfig = (passage: Passage, config: PracticeConfig, day = 0): Drill[] => {
  const { variant, section } = selectionOf(passage, config);
  const drills = combinedDrills(gridOf(passage, variant, section), methodsOf(config));
  const { click } = config;
  const clicked = click ? drills.map((drill) => ({ ...drill, click })) : drills;
  return config.rotates ? rotatedDrills(clicked, day) : clicked;
};

/** The grid of the whole of a passage with its first marks. */
export const passageGrid = (passage: Passage): Grid => gridOf(passage, passage.variants[0] ?? null);

/** The grid of the whole of a passage with the marks of one of its variants, the first where the id is unknown. */
export const variantGrid = (passage: Passage, variantId: string | undefined): Grid =>
  gridOf(passage, passage.variants.find(({ id }) => id === variantId) ?? passage.variants[0] ?? null);

/** The first of a configuration's drills. */
export const drillOf = (passage: Passage, config: PracticeConfig): Drill => drillsOfConfig(passage, config)[0] as Drill;

/** The drill of a passage that was never practised: straight, with its first marks. */
export const firstDrill = (passage: Passage): Drill => drillOf(passage, newPracticeConfig(passage, DEFAULT_SETTINGS));

const STRAIGHT = 'straight';
/** Along with a recording is a way of its own: its tempo is not the click's. */
const ALONG = 'along';

/** One name for the methods of a configuration or a drill: what was played by them is kept under it. */
const practiceModeId = (ids: readonly (string | null | undefined)[]): string => ids.filter(Boolean).join('+') || STRAIGHT;

/** What a configuration has to go on from in the way that it is practised now: its strategies, and how the last take of that way closed. */
export const lineOf = (config: PracticeConfig): Pick<PracticeConfig, 'strategies' | 'last'> => {
  const mode = practiceModeId([...methodsOf(config).map(({ id }) => id), config.playAlong && ALONG]);
  if (mode === STRAIGHT) return config;
  const kept = config.others[mode];
  const strategies = Object.fromEntries(
    Object.entries({ ...config.strategies, ...kept?.states }).map(([id]): [string, StrategySnapshot] => [
      id,
      { options: config.strategies[id]?.options ?? {}, state: kept?.states[id] ?? null },
    ]),
  );
  return { strategies, last: kept?.last ?? null };
};

/** The tempo that is aimed for: along with a recording it has a goal of its own. */
export const configuredGoalBpm = ({ goalBpm, playAlong }: PracticeConfig): number => playAlong?.goalBpm ?? goalBpm;

/** What changes the tempo that is aimed for. */
export const goalChange = ({ playAlong }: PracticeConfig, goalBpm: number): PracticeConfigChange =>
  playAlong ? { playAlong: { ...playAlong, goalBpm } } : { goalBpm };

/** When a configuration was played last, in whatever way; empty where it never was. */
export const lastPlayedAt = (config: PracticeConfig | undefined): string =>
  [config?.last, ...Object.values(config?.others ?? {}).map(({ last }) => last)]
    .map((one) => one?.startedAt ?? '')
    .sort()
    .at(-1) ?? '';

/** A configuration with a part of it changed by the player. What strategies remember is theirs. */
export const changePracticeConfig = (
  config: PracticeConfig,
  { strategyOptions = {}, methodParameters, readiness = {}, ...plain }: PracticeConfigChange,
): PracticeConfig => {
  const strategies = Object.entries(strategyOptions).map(([id, options]): [string, StrategySnapshot] => [
    id,
    { options, state: config.strategies[id]?.state ?? null },
  ]);
  const looked = Object.entries({ ...config.readiness, ...readiness }).filter(([, answer]) => answer !== 'no');
  return {
    ...config,
    ...plain,
    strategies: { ...config.strategies, ...Object.fromEntries(strategies) },
    methodParameters: { ...config.methodParameters, ...methodParameters },
    readiness: Object.fromEntries(looked) as PracticeConfig['readiness'],
  };
};

/** The name of the way in which a take was played, by its first drill; what was not played to get on is a way of its own. */
export const practiceModeOf = ({ drills, purpose }: Pick<Take, 'drills' | 'purpose'>): string => {
  if (purpose !== 'work') return purpose;
  const [drill] = drills;
  return practiceModeId([drill?.method.id, ...(drill?.also ?? []).map(({ id }) => id), drill?.playAlong && ALONG]);
};

/** What such a way is called: the methods, and whether it is along with a recording. */
export const practiceModeName = (mode: string): string =>
  mode
    .split('+')
    .map((id) => (id === ALONG ? 'along with a recording' : methodOf(id).name.toLowerCase()))
    .join(', ');

const lastOf = (config: PracticeConfig, mode: string): PracticeConfig['last'] =>
  (mode === STRAIGHT ? config.last : config.others[mode]?.last) ?? null;

/** A configuration after a take: what its strategy keeps, and how it closed. An older take than the last known of its way changes nothing. */
export const afterTake = (config: PracticeConfig, take: Take): PracticeConfig => {
  if (!take.summary || take.input === 'file') return config;
  const mode = practiceModeOf(take);
  const before = lastOf(config, mode);
  if (before && take.startedAt < before.startedAt) return config;
  const { strategy } = take;
  const last = { takeId: take.id, startedAt: take.startedAt, summary: take.summary };
  if (mode !== STRAIGHT) {
    const states = { ...config.others[mode]?.states, ...(strategy ? { [strategy.id]: strategy.state } : {}) };
    return { ...config, others: { ...config.others, [mode]: { states, last } } };
  }
  return {
    ...config,
    // Once it is counted, the goal is the player's to change.
    goalBpm: before?.takeId === take.id ? config.goalBpm : take.goalBpm,
    strategies: strategy
      ? { ...config.strategies, [strategy.id]: { options: strategy.options, state: strategy.state } }
      : config.strategies,
    last,
  };
};

/** A configuration once a take was corrected or measured again: how its last take closed. What was decided meanwhile happened, and stands. */
export const afterCorrection = (config: PracticeConfig, take: Take): PracticeConfig => {
  const mode = practiceModeOf(take);
  const before = lastOf(config, mode);
  if (!take.summary || before?.takeId !== take.id) return config;
  const last = { ...before, summary: take.summary };
  const other = config.others[mode];
  return mode === STRAIGHT
    ? { ...config, last }
    : { ...config, others: { ...config.others, [mode]: { states: {}, ...other, last } } };
};
