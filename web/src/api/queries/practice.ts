import { type ConfigurablePassage, changePracticeConfig, practiceConfigOf, type Selection } from '@isochron/core/planning';
import {
  type PassageRepetitions,
  type Practice,
  type PracticeConfig,
  type PracticeConfigChange,
  type PracticeConfigKey,
  type PracticeQuery,
  type PracticeTotals,
  practiceConfigId,
  practiceConfigKey,
  type TempoHistory,
} from '@isochron/core/schema';
import { keepPreviousData, useMutation, useQuery } from '@tanstack/react-query';
import {
  getHistory,
  getPassageRepetitions,
  getPractice,
  getPracticeConfigs,
  getPracticeTotals,
  patchPracticeConfig,
} from '../client';
import { queryClient } from '../query-client';
import { useSettings } from '../settings';
import { type Fetched, KEYS, snapshot } from './fetched';

const NO_CONFIGS: readonly PracticeConfig[] = [];
const NO_REPETITIONS: PassageRepetitions = [];
const NO_HISTORY: TempoHistory = [];
const NO_PRACTICE: Practice = { days: [], weak: [] };

/** All configurations: how each passage is practised. */
export const usePracticeConfigs = (): Fetched & { practiceConfigs: readonly PracticeConfig[] } => {
  const query = useQuery({ queryKey: KEYS.practiceConfigs, queryFn: getPracticeConfigs });
  return { ...snapshot(query), practiceConfigs: query.data ?? NO_CONFIGS };
};

/** Shows a configuration as it is now, in place of what was fetched. */
export const showPracticeConfig = (config: PracticeConfig): void => {
  const id = practiceConfigId(config);
  queryClient.setQueryData<readonly PracticeConfig[]>(KEYS.practiceConfigs, (old = []) => [
    config,
    ...old.filter((one) => practiceConfigId(one) !== id),
  ]);
};

/** A configuration as it is shown; where it is not, as it was given. */
export const shownPracticeConfig = (config: PracticeConfig): PracticeConfig =>
  queryClient
    .getQueryData<readonly PracticeConfig[]>(KEYS.practiceConfigs)
    ?.find((one) => practiceConfigId(one) === practiceConfigId(config)) ?? config;

/** The practice configuration of a passage or of a part of it, with a way to change a part of it; a change shows at once and is stored. */
export const usePracticeConfig = (
  passage: ConfigurablePassage,
  part: Selection = {},
): Fetched & { config: PracticeConfig; change(part: PracticeConfigChange): void } => {
  const { practiceConfigs, ...fetched } = usePracticeConfigs();
  const { settings } = useSettings();
  const config = practiceConfigOf(practiceConfigs, passage, settings, part);
  const { mutate } = useMutation({
    mutationFn: (part: PracticeConfigChange) => patchPracticeConfig(practiceConfigKey(config), part),
    onMutate: (part) => showPracticeConfig(changePracticeConfig(config, part)),
    // What was changed elsewhere comes back with the answer; after a refusal, what is stored.
    onSuccess: showPracticeConfig,
    onError: () => queryClient.invalidateQueries({ queryKey: KEYS.practiceConfigs }),
    scope: { id: 'practiceConfigs' },
  });
  return { ...fetched, config, change: mutate };
};

/** The best clean tempo of each day on which a passage had one. */
export const useHistory = (passageId: string): TempoHistory =>
  useQuery({
    queryKey: [...KEYS.takes, 'history', passageId],
    queryFn: () => getHistory(passageId),
    enabled: passageId !== '',
  }).data ?? NO_HISTORY;

/** What was practised, day by day, by the calendar where the player is. */
export const usePractice = (asked: Partial<PracticeQuery>): Fetched & { practice: Practice } => {
  const query = useQuery({
    queryKey: [...KEYS.takes, 'practice', asked],
    queryFn: () => getPractice(asked),
    placeholderData: keepPreviousData,
  });
  return { ...snapshot(query), practice: query.data ?? NO_PRACTICE };
};

/** All that a configuration was ever given; null while that is fetched. */
export const usePracticeTotals = (config: PracticeConfigKey): PracticeTotals | null =>
  useQuery({ queryKey: [...KEYS.takes, 'totals', practiceConfigId(config)], queryFn: () => getPracticeTotals(config) }).data ??
  null;

/** The judged repetitions of a passage that were played straight, in order of time. */
export const usePassageRepetitions = (passageId: string): Fetched & { repetitions: PassageRepetitions } => {
  const query = useQuery({
    queryKey: [...KEYS.takes, 'repetitions', passageId],
    queryFn: () => getPassageRepetitions(passageId),
  });
  return { ...snapshot(query), repetitions: query.data ?? NO_REPETITIONS };
};
