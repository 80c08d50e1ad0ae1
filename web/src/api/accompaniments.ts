import type { Accompaniment, AccompanimentSummary } from '@isochron/core/schema';
import { useMutation, useQuery } from '@tanstack/react-query';
import { playerMessage } from '../app/report-error';
import { getAccompaniment, getAccompaniments, putAccompaniment } from './client';
import { queryClient } from './query-client';

const LIST = ['accompaniments'];
const NONE: readonly AccompanimentSummary[] = [];
const keyOf = (id: string) => ['accompaniment', id];

/** The recordings to play along with, by title. */
export const useAccompaniments = (): { accompaniments: readonly AccompanimentSummary[]; message: string } => {
  const { data = NONE, error } = useQuery({ queryKey: LIST, queryFn: getAccompaniments });
  return { accompaniments: data, message: playerMessage(error) };
};

/** One of them with its beats; null while it is fetched, and where there is none. */
export const useAccompaniment = (id: string | undefined): { accompaniment: Accompaniment | null; message: string } => {
  const { data = null, error } = useQuery({
    queryKey: keyOf(id ?? ''),
    queryFn: () => getAccompaniment(id ?? ''),
    enabled: id !== undefined,
  });
  return { accompaniment: data, message: playerMessage(error) };
};

const show = (accompaniment: Accompaniment): void => {
  queryClient.setQueryData(keyOf(accompaniment.id), accompaniment);
};

/** The list is fetched anew. */
export const refetchAccompaniments = (): Promise<unknown> => queryClient.invalidateQueries({ queryKey: LIST });

/**
 * Changes a recording: shown at once and stored, one change after the other. Where storing is refused, what is stored is shown again,
 * and why is said.
 */
export const useChangeAccompaniment = (id: string): { change(to: Accompaniment): void; trouble: string } => {
  const { mutate, error } = useMutation({
    mutationFn: (to: Accompaniment) => {
      const revision = queryClient.getQueryData<Accompaniment>(keyOf(id))?.revision ?? to.revision;
      return putAccompaniment({ ...to, revision });
    },
    scope: { id: `accompaniment ${id}` },
    onSuccess: ({ revision }) => {
      queryClient.setQueryData<Accompaniment>(keyOf(id), (now) => now && { ...now, revision });
      void refetchAccompaniments();
    },
    onError: () => queryClient.invalidateQueries({ queryKey: keyOf(id) }),
  });
  return {
    trouble: playerMessage(error),
    change(to) {
      show(to);
      mutate(to);
    },
  };
};
