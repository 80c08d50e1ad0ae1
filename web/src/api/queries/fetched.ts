import { playerMessage } from '../../app/report-error';

export const KEYS = {
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

export const snapshot = (query: { isPending: boolean; error: Error | null; data?: unknown }): Fetched => ({
  isLoading: query.isPending,
  message: playerMessage(query.error),
  isKnown: query.data !== undefined,
});
