import { nowMs } from '@isochron/core/schema';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { playerMessage } from '../../app/report-error';
import {
  cancelCheck,
  cancelReanalysis,
  getBackupState,
  getHealth,
  getIntegrity,
  getReanalysis,
  startCheck,
  startReanalysis,
  tidyUp,
} from '../client';
import { queryClient } from '../query-client';
import { KEYS } from './fetched';

const LOOK_EVERY_MS = 500;

/** How the server stands: looked at anew now and then, so that a full disk is known before the player begins. */
export const useHealth = () => useQuery({ queryKey: ['health'], queryFn: getHealth, refetchInterval: 15_000 });

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

/** Everything that is stored may have changed. */
export const refreshAll = (): Promise<unknown> => queryClient.invalidateQueries();
