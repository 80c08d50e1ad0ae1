import { type ConfigurablePassage, changePracticeConfig, practiceConfigOf, type Selection } from '@isochron/core/planning';
import {
  type LibraryChange,
  nowMs,
  type Passage,
  type PassageRepetitions,
  type PassageSummary,
  type Practice,
  type PracticeConfig,
  type PracticeConfigChange,
  type PracticeConfigKey,
  type PracticeQuery,
  type PracticeTotals,
  practiceConfigId,
  practiceConfigKey,
  type Solution,
  type Take,
  type TakeListItem,
  type TakeQuery,
  type TempoHistory,
} from '@isochron/core/schema';
import { keepPreviousData, useInfiniteQuery, useMutation, useQueries, useQuery, useQueryClient } from '@tanstack/react-query';
import { useMemo, useState } from 'react';
import { playerMessage } from '../app/report-error';
import {
  cancelCheck,
  cancelReanalysis,
  getBackupState,
  getEarlier,
  getHealth,
  getHistory,
  getIntegrity,
  getNotebook,
  getPassage,
  getPassageRepetitions,
  getPassages,
  getPractice,
  getPracticeConfigs,
  getPracticeTotals,
  getReanalysis,
  getTake,
  getTakes,
  patchLibrary,
  patchPracticeConfig,
  putPassage,
  putSolution,
  recordingAddress,
  recordingError,
  startCheck,
  startReanalysis,
  tidyUp,
} from './client';
import { queryClient } from './query-client';
import { useSettings } from './settings';

const NO_PASSAGES: readonly PassageSummary[] = [];
const NO_SOLUTIONS: readonly Solution[] = [];
const NO_CONFIGS: readonly PracticeConfig[] = [];
const NO_REPETITIONS: PassageRepetitions = [];
const NO_HISTORY: TempoHistory = [];
const NO_PRACTICE: Practice = { days: [], weak: [] };
const LOOK_EVERY_MS = 500;

const KEYS = {
  passages: ['passages'],
  notebook: ['notebook'],
  practiceConfigs: ['practiceConfigs'],
  takes: ['takes'],
  reanalysis: ['reanalysis'],
} as const;

/** How a fetch stands: whether it is still under way, and what went wrong, in a sentence. */
export interface Fetched {
  isLoading: boolean;
  message: string;
  /** Whether there is an answer, be it an old one that could not be asked anew. */
  isKnown: boolean;
}

const snapshot = (query: { isPending: boolean; error: Error | null; data?: unknown }): Fetched => ({
  isLoading: query.isPending,
  message: playerMessage(query.error),
  isKnown: query.data !== undefined,
});

/** How the server stands: looked at anew now and then, so that a full disk is known before the player begins. */
export const useHealth = () => useQuery({ queryKey: ['health'], queryFn: getHealth, refetchInterval: 15_000 });

/** The library: all passages by title, those that are archived too, without their notes. */
export const useLibrary = (): Fetched & { passages: readonly PassageSummary[] } => {
  const query = useQuery({ queryKey: KEYS.passages, queryFn: getPassages });
  return { ...snapshot(query), passages: query.data ?? NO_PASSAGES };
};

/** The passages that are practised: the library without what is archived. */
export const usePassages = (): Fetched & { passages: readonly PassageSummary[] } => {
  const { passages, ...rest } = useLibrary();
  return { ...rest, passages: useMemo(() => passages.filter(({ archivedAt }) => archivedAt === null), [passages]) };
};

const passageKey = (id: string) => ['passage', id];
const passageQuery = (id: string) => ({ queryKey: passageKey(id), queryFn: () => getPassage(id) });

/** One passage with its notes; null where there is none. */
export const usePassage = (id: string | undefined): Fetched & { passage: Passage | null } => {
  const query = useQuery({
    ...passageQuery(id ?? ''),
    enabled: id !== undefined && id !== '',
  });
  return { ...snapshot(query), isLoading: query.isLoading, passage: query.data ?? null };
};

/** Fetches passages before they are needed and keeps them: what is to be practised is there even if the server stops meanwhile. */
export const usePassagesAhead = (ids: readonly string[]): void => {
  useQueries({ queries: ids.map(passageQuery) });
};

/** Ways to store a passage and to change its place on the library. Each throws with a sentence where it is refused. */
export const usePassageWriter = () => {
  const client = useQueryClient();
  return useMemo(() => {
    const shown = (passage: Passage) => {
      client.setQueryData(passageKey(passage.id), passage);
      void client.invalidateQueries({ queryKey: KEYS.passages });
      return passage;
    };
    return {
      /** Stores a passage in place of the revision that it was made from; 0 for a new one. */
      store: async (passage: Passage, from: number) => shown(await putPassage(passage, from)),
      shelve: async (id: string, change: LibraryChange) => {
        await patchLibrary(id, change);
        await client.invalidateQueries({ queryKey: KEYS.passages });
      },
    };
  }, [client]);
};

/** The notebook, with a way to write an entry: it shows at once and is stored. */
export const useNotebook = () => {
  const client = useQueryClient();
  const query = useQuery({ queryKey: KEYS.notebook, queryFn: getNotebook });
  const { mutate } = useMutation({
    mutationFn: putSolution,
    onMutate: (solution: Solution) =>
      client.setQueryData<readonly Solution[]>(KEYS.notebook, (old = []) => [
        solution,
        ...old.filter(({ id }) => id !== solution.id),
      ]),
    onError: () => client.invalidateQueries({ queryKey: KEYS.notebook }),
    scope: { id: 'notebook' },
  });
  return { ...snapshot(query), solutions: query.data ?? NO_SOLUTIONS, write: mutate };
};

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

/** The course of a passage or of a part of it, with a way to change a part of it; a change shows at once and is stored. */
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

const PAGE = 100;
/** In the place of a passage's id: the takes of all of them. */
export const ALL_PASSAGES = '*';

/** Takes without their notes, a page at a time: those of a passage, sorted and chosen as asked. */
export const useTakes = (asked: Pick<TakeQuery, 'show' | 'text' | 'sort' | 'order'> & { passageId: string }) => {
  const query = useInfiniteQuery({
    queryKey: [...KEYS.takes, asked],
    queryFn: ({ pageParam }) => {
      const { passageId, ...rest } = asked;
      return getTakes({ ...rest, ...(passageId === ALL_PASSAGES ? {} : { passageId }), limit: PAGE, offset: pageParam });
    },
    initialPageParam: 0,
    getNextPageParam: (last, pages) => {
      const fetched = pages.reduce((sum, { takes }) => sum + takes.length, 0);
      return fetched < last.total && last.takes.length > 0 ? pages.length * PAGE : undefined;
    },
    enabled: asked.passageId !== '',
    placeholderData: keepPreviousData,
  });
  const takes = useMemo(() => query.data?.pages.flatMap((page) => page.takes) ?? [], [query.data]);
  const { hasNextPage, isFetchingNextPage, fetchNextPage } = query;
  return {
    ...snapshot(query),
    takes,
    total: query.data?.pages.at(-1)?.total ?? 0,
    /** Fetches what comes next in the list, where there is more. */
    more: () => {
      if (hasNextPage && !isFetchingNextPage) void fetchNextPage();
    },
  };
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
export const usePassageRepetitions = (passageId: string): Fetched & { tries: PassageRepetitions } => {
  const query = useQuery({ queryKey: [...KEYS.takes, 'tries', passageId], queryFn: () => getPassageRepetitions(passageId) });
  return { ...snapshot(query), tries: query.data ?? NO_REPETITIONS };
};

const takeKey = (takeId: string) => ['take', takeId];

/** One take whole. */
export const useTake = (takeId: string): Fetched & { take: Take | null } => {
  const query = useQuery({ queryKey: takeKey(takeId), queryFn: () => getTake(takeId) });
  return { ...snapshot(query), take: query.data ?? null };
};

/** A take as it is shown just now, or null. */
export const shownTake = (takeId: string): Take | null => queryClient.getQueryData<Take>(takeKey(takeId)) ?? null;

/** Lists of takes are fetched anew. */
export const refetchTakes = (): Promise<unknown> => queryClient.invalidateQueries({ queryKey: KEYS.takes });

/** A take was changed elsewhere: it is fetched anew. */
export const refetchTake = (takeId: string): Promise<unknown> => queryClient.invalidateQueries({ queryKey: takeKey(takeId) });

/** Puts a take as it is now in place of what was fetched. */
export const showTake = (take: Take): void => {
  queryClient.setQueryData(takeKey(take.id), take);
};

/** How many earlier takes are looked at together with one. */
const POOLED = 8;
const NO_EARLIER: readonly Take[] = [];

/** Takes with their notes. One that cannot be read says nothing; the others do. */
const readable = async (takes: readonly TakeListItem[]): Promise<Take[]> => {
  const read = await Promise.all(takes.map(({ id }) => getTake(id).catch(() => null)));
  return read.filter((one) => one !== null);
};

/** The takes of the same passage before one, newest first: what they have in common shows where one take is too short. */
export const useTakesBefore = (take: Take): readonly Take[] => {
  const { id, passageId, startedAt, withoutClick } = take;
  const query = useQuery({
    queryKey: [...KEYS.takes, 'before', id],
    queryFn: async () => {
      const { takes } = await getTakes({ passageId, limit: 5 * POOLED });
      const isLike = (one: TakeListItem) => one.withoutClick === withoutClick && one.input !== 'file';
      const before = takes.filter((one) => one.id !== id && one.startedAt < startedAt && isLike(one)).slice(0, POOLED);
      return readable(before);
    },
  });
  return query.data ?? NO_EARLIER;
};

/** The newest takes of a passage, with their notes: what they have in common says where it is hard. */
export const useLatestTakes = (passageId: string): readonly Take[] => {
  const query = useQuery({
    queryKey: [...KEYS.takes, 'latest', passageId],
    queryFn: async () => {
      const { takes } = await getTakes({ passageId, limit: POOLED });
      return readable(takes);
    },
  });
  return query.data ?? NO_EARLIER;
};

/** A take's figures by earlier engines. */
export const useEarlier = (takeId: string) =>
  useQuery({ queryKey: [...takeKey(takeId), 'earlier'], queryFn: () => getEarlier(takeId) }).data ?? [];

/** What follows from takes has changed: lists, configurations, history and plans are fetched again. */
export const refreshFigures = (): Promise<unknown> =>
  Promise.all([
    queryClient.invalidateQueries({ queryKey: KEYS.takes }),
    queryClient.invalidateQueries({ queryKey: KEYS.practiceConfigs }),
  ]);

/** What was stored has changed: what is shown of it is fetched anew. */
export const refreshStored = (): Promise<unknown> =>
  Promise.all([refreshFigures(), queryClient.invalidateQueries({ queryKey: ['take'] })]);

/** How the server's re-analysis gets on, followed while it runs; when it has ended, takes are fetched anew. */
export const useReanalysis = () => {
  const client = useQueryClient();
  const { data, error } = useQuery({
    queryKey: KEYS.reanalysis,
    queryFn: async () => {
      const before = client.getQueryData<{ running: boolean }>(KEYS.reanalysis);
      const now = await getReanalysis();
      if (before?.running && !now.running) void refreshStored();
      return now;
    },
    refetchInterval: ({ state }) => (state.data?.running ? LOOK_EVERY_MS : false),
  });
  const act = useMutation({
    mutationFn: (action: () => Promise<void>) => action(),
    onSettled: () => client.invalidateQueries({ queryKey: KEYS.reanalysis }),
  });
  return {
    state: data ?? null,
    trouble: playerMessage(act.error ?? error) || (data?.message ?? ''),
    start: (takeId?: string) =>
      act.mutate(async () => {
        await startReanalysis(takeId);
        // Short runs end before the first look: what was running before is known.
        client.setQueryData(KEYS.reanalysis, { ...(data ?? { done: 0, of: 0, due: 0, message: '' }), running: true });
      }),
    cancel: () => act.mutate(cancelReanalysis),
  };
};

/** How a backup or a restore gets on, followed while one is under way; `look` when one is begun. */
export const useBackupState = () => {
  const [lookUntil, setLookUntil] = useState(0);
  const { data } = useQuery({
    queryKey: ['backup'],
    queryFn: getBackupState,
    // One that was just begun may not be under way at the first look.
    refetchInterval: ({ state }) =>
      (state.data && state.data.doing !== 'nothing') || nowMs() < lookUntil ? LOOK_EVERY_MS : false,
  });
  return { state: data ?? null, look: () => setLookUntil(nowMs() + 5 * LOOK_EVERY_MS) };
};

/** Whether what is stored is as it was stored, followed while a check is under way. */
export const useIntegrity = () => {
  const client = useQueryClient();
  const queryKey = ['integrity'];
  const { data, error } = useQuery({
    queryKey,
    queryFn: getIntegrity,
    refetchInterval: ({ state }) => (state.data?.running ? LOOK_EVERY_MS : false),
  });
  const act = useMutation({
    mutationFn: async (action: () => Promise<unknown>) => action(),
    onSettled: () => client.invalidateQueries(),
  });
  return {
    state: data ?? null,
    trouble: playerMessage(act.error ?? error),
    start: () => act.mutate(startCheck),
    cancel: () => act.mutate(cancelCheck),
    tidy: () => act.mutateAsync(tidyUp) as ReturnType<typeof tidyUp>,
  };
};

/** Where a take's recording may be fetched; null while that is looked at, and where it is damaged or gone, with a sentence. */
export const useTakeSound = (takeId: string, hasRecording: boolean) => {
  const [asIs, setAsIs] = useState(false);
  const { data: trouble } = useQuery({
    queryKey: ['recording', takeId],
    queryFn: () => recordingError(takeId),
    enabled: hasRecording,
  });
  return {
    address: hasRecording && (trouble === null || asIs) ? recordingAddress(takeId, asIs) : null,
    message: asIs ? '' : (trouble?.message ?? ''),
    /** Has what is left of a damaged one; null where there is nothing of it, or nothing is wrong. */
    takeAsIs: trouble?.isDamaged && !asIs ? () => setAsIs(true) : null,
  };
};

/** Everything that is stored may have changed. */
export const refreshAll = (): Promise<unknown> => queryClient.invalidateQueries();
