import { MutationCache, QueryClient } from '@tanstack/react-query';
import { playerMessage } from '../app/report-error';
import { toaster } from '../app/toaster';
import { ApiError } from './client';

const TRIES = 2;

/** What was fetched from the server and is kept for the page. The server is on this machine: being offline is no matter. */
export const queryClient = new QueryClient({
  mutationCache: new MutationCache({
    onError: (error) => {
      toaster.create({ title: 'This change could not be stored.', description: playerMessage(error), duration: 12_000 });
    },
  }),
  defaultOptions: {
    queries: {
      networkMode: 'always',
      staleTime: 30_000,
      // A refusal stays a refusal; only silence is worth another try.
      retry: (count, error) => count < TRIES && (!(error instanceof ApiError) || error.status === 0 || error.status >= 500),
      retryDelay: (count) => 500 * 2 ** count,
    },
    mutations: { networkMode: 'always' },
  },
});
