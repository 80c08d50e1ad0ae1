import { DEFAULT_SETTINGS, type Settings } from '@isochron/core/schema';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useCallback } from 'react';
import { playerMessage } from '../app/report-error';
import { getSettings, patchSettings } from './client';

const KEY = ['settings'];

/** What was changed and waits for its turn to be sent. */
let waiting: Partial<Settings> = {};
const takeWaiting = (): Partial<Settings> => {
  const change = waiting;
  waiting = {};
  return change;
};
// Who leaves at once has changed it all the same.
globalThis.addEventListener?.('pagehide', () => {
  if (Object.keys(waiting).length > 0) void patchSettings(takeWaiting()).catch(() => {});
});

/**
 * The player's settings; a change shows at once and is stored. Nothing is written that was not first read: a change that is made
 * before the settings are here waits for them. What makes one of what was set before must not offer it until they are `loaded`.
 */
export const useSettings = () => {
  const client = useQueryClient();
  const query = useQuery({ queryKey: KEY, queryFn: getSettings, staleTime: Number.POSITIVE_INFINITY });
  const store = useMutation({
    // With what was changed since: the newest wins.
    mutationFn: (change: Partial<Settings>) => patchSettings({ ...change, ...takeWaiting() }),
    onMutate: (change) => {
      waiting = { ...waiting, ...change };
      client.setQueryData<Settings>(KEY, (known) => known && { ...known, ...change });
    },
    // What another tab changed meanwhile comes back with the answer; after a refusal, what is stored.
    onSuccess: (settings) => client.setQueryData<Settings>(KEY, settings),
    onError: () => client.invalidateQueries({ queryKey: KEY }),
    // One change after the other, so that the last one is the last to arrive.
    scope: { id: 'settings' },
  });
  const { mutateAsync } = store;
  const change = useCallback(
    async (part: Partial<Settings>): Promise<void> => {
      const known = await client.ensureQueryData({ queryKey: KEY, queryFn: getSettings }).catch(() => null);
      if (known) await mutateAsync(part).catch(() => {});
    },
    [client, mutateAsync],
  );
  return {
    settings: query.data ?? DEFAULT_SETTINGS,
    loaded: query.data !== undefined,
    /** Empty, or why they could not be fetched, or the last change could not be stored. */
    message: playerMessage(query.error ?? store.error),
    change,
  };
};
