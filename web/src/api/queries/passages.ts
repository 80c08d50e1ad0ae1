import type { LibraryChange, Passage, PassageSummary, Solution } from '@isochron/core/schema';
import { useMutation, useQueries, useQuery, useQueryClient } from '@tanstack/react-query';
import { useMemo } from 'react';
import { getNotebook, getPassage, getPassages, patchLibrary, putPassage, putSolution } from '../client';
import { type Fetched, KEYS, snapshot } from './fetched';

const NO_PASSAGES: readonly PassageSummary[] = [];
const NO_SOLUTIONS: readonly Solution[] = [];

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
