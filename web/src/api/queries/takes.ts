import { lastTimeOf, takeReason } from '@isochron/core/planning';
import type { Reason, Take, TakeListItem, TakeQuery } from '@isochron/core/schema';
import { keepPreviousData, useInfiniteQuery, useQuery } from '@tanstack/react-query';
import { useMemo, useState } from 'react';
import { getEarlier, getTake, getTakes, recordingAddress, recordingError } from '../client';
import { queryClient } from '../query-client';
import { type Fetched, KEYS, snapshot } from './fetched';

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

/** A day has no more takes than this: one every two minutes for as long as anyone plays. */
const OF_A_DAY = 200;
const NO_TAKES: readonly TakeListItem[] = [];

/** Every take of a day, in order of time. */
export const useTakesOfDay = (day: string): Fetched & { takes: readonly TakeListItem[] } => {
  const query = useQuery({
    queryKey: [...KEYS.takes, 'of day', day],
    queryFn: async () => (await getTakes({ from: day, to: day, order: 'asc', limit: OF_A_DAY })).takes,
  });
  return { ...snapshot(query), takes: query.data ?? NO_TAKES };
};

const takeKey = (takeId: string | null) => ['take', takeId];

/** One take whole; none as long as none is named. */
export const useTake = (takeId: string | null): Fetched & { take: Take | null } => {
  const query = useQuery({
    queryKey: takeKey(takeId),
    queryFn: () => getTake(takeId as string),
    enabled: takeId !== null,
  });
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
export const useTakesBefore = (take: Take): { before: readonly Take[]; isKnown: boolean } => {
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
  return { before: query.data ?? NO_EARLIER, isKnown: !query.isLoading };
};

/** So many takes of a passage are looked through for the last time. */
const LOOKED_THROUGH = 60;

/** What a take came to against the last time; against nothing while that is not known, or was never. */
export const useAgainstLastTime = (take: Take | null): Reason | null => {
  const { data } = useQuery({
    queryKey: [...KEYS.takes, 'last time', take?.id],
    queryFn: async () => (await getTakes({ passageId: take?.passageId, limit: LOOKED_THROUGH })).takes,
    enabled: take !== null,
  });
  if (!take?.summary) return null;
  const last = data && lastTimeOf(take, data);
  return takeReason(take.summary.bestCleanBpm, last ? last.summary?.bestCleanBpm : undefined);
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
