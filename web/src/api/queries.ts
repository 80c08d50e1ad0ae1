import { type Course, courseId, courseOf, type Passage, type Take, type TakeSummary } from '@isochron/core';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import {
  cancelReanalysis,
  getCourses,
  getEarlier,
  getHealth,
  getPassages,
  getReanalysis,
  getTake,
  getTakes,
  putCourse,
  startReanalysis,
} from './client';
import { queryClient } from './query-client';
import { useSettings } from './settings';

const NO_PASSAGES: readonly Passage[] = [];
const NO_COURSES: readonly Course[] = [];
const NO_TAKES: readonly TakeSummary[] = [];
const LOOK_EVERY_MS = 500;

const KEYS = {
  passages: ['passages'],
  courses: ['courses'],
  takes: ['takes'],
  reanalysis: ['reanalysis'],
} as const;

/** How a fetch stands: whether it is still under way, and what went wrong, in a sentence. */
export interface Fetched {
  isLoading: boolean;
  message: string;
}

const standing = ({ isPending, error }: { isPending: boolean; error: Error | null }): Fetched => ({
  isLoading: isPending,
  message: error?.message ?? '',
});

export const useHealth = () => useQuery({ queryKey: ['health'], queryFn: getHealth, staleTime: Number.POSITIVE_INFINITY });

/** All passages, by title. */
export const usePassages = (): Fetched & { passages: readonly Passage[] } => {
  const query = useQuery({ queryKey: KEYS.passages, queryFn: getPassages });
  return { ...standing(query), passages: query.data ?? NO_PASSAGES };
};

/** All courses: how each passage is practised. */
export const useCourses = (): Fetched & { courses: readonly Course[] } => {
  const query = useQuery({ queryKey: KEYS.courses, queryFn: getCourses });
  return { ...standing(query), courses: query.data ?? NO_COURSES };
};

/** Shows a course as it is now, in place of what was fetched. */
export const showCourse = (course: Course): void => {
  const id = courseId(course);
  queryClient.setQueryData<readonly Course[]>(KEYS.courses, (old = []) => [
    course,
    ...old.filter((one) => courseId(one) !== id),
  ]);
};

/** The course of a passage, with a way to change it; a change shows at once and is stored. */
export const useCourse = (passage: Passage): Fetched & { course: Course; change(part: Partial<Course>): void } => {
  const { courses, ...fetched } = useCourses();
  const { settings } = useSettings();
  const { mutate } = useMutation({
    mutationFn: putCourse,
    onMutate: showCourse,
  });
  const course = courseOf(courses, passage, settings);
  return { ...fetched, course, change: (part) => mutate({ ...course, ...part }) };
};

/** Takes without their notes, newest first: all of them, or those of one passage. */
export const useTakes = (passageId?: string): Fetched & { takes: readonly TakeSummary[] } => {
  const query = useQuery({
    queryKey: passageId ? [...KEYS.takes, 'of', passageId] : KEYS.takes,
    queryFn: () => getTakes(passageId),
  });
  return { ...standing(query), takes: query.data ?? NO_TAKES };
};

const takeKey = (takeId: string) => ['take', takeId];

/** One take whole. */
export const useTake = (takeId: string): Fetched & { take: Take | null } => {
  const query = useQuery({ queryKey: takeKey(takeId), queryFn: () => getTake(takeId) });
  return { ...standing(query), take: query.data ?? null };
};

/** Puts a take as it is now in place of what was fetched. */
export const showTake = (take: Take): void => {
  queryClient.setQueryData(takeKey(take.id), take);
};

/** A take's figures by earlier engines. */
export const useEarlier = (takeId: string) =>
  useQuery({ queryKey: [...takeKey(takeId), 'earlier'], queryFn: () => getEarlier(takeId) }).data ?? [];

/** What was stored has changed: what is shown of it is fetched anew. */
export const refreshStored = (): Promise<unknown> =>
  Promise.all([
    queryClient.invalidateQueries({ queryKey: KEYS.takes }),
    queryClient.invalidateQueries({ queryKey: KEYS.courses }),
    queryClient.invalidateQueries({ queryKey: ['take'] }),
  ]);

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
    trouble: act.error?.message ?? error?.message ?? data?.message ?? '',
    start: (takeId?: string) =>
      act.mutate(async () => {
        await startReanalysis(takeId);
        // Short runs end before the first look: what was running before is known.
        client.setQueryData(KEYS.reanalysis, { ...(data ?? { done: 0, of: 0, due: 0, message: '' }), running: true });
      }),
    cancel: () => act.mutate(cancelReanalysis),
  };
};
