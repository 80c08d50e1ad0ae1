import type { PassageRepetitions } from '../schema/api';

/** A clean repetition at 80 as the server tells of it, to make others of in tests. */
export const SAMPLE_REPETITION: PassageRepetitions[number] = {
  takeId: '1b4e28ba-2fa1-4d2e-883f-0016d3cca427',
  startedAt: '2026-03-01T18:00:00.000Z',
  variantId: 'first',
  sectionId: 'whole',
  startBpm: 60,
  bpm: 80,
  outcome: 'clean',
  ease: null,
  toleranceUsage: 0.5,
  notes: 17,
  repetitionKind: null,
  breakBpm: null,
  breakLow: null,
  breakHigh: null,
};
