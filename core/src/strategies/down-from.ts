import { shareToClean } from '../plan/next-start';
import type { RepetitionOutcome, SessionTarget } from './strategy';

/**
 * How far down it goes from a repetition that was not clean: at least `leastBpm`, and as far as the unsteadiness says where that is farther; never
 * below half the tempo that the player chose to start from. In whole beats a minute.
 */
export const downFrom = (
  { bpm, toleranceUsage, verdict: { outcome } }: Pick<RepetitionOutcome, 'bpm' | 'toleranceUsage' | 'verdict'>,
  leastBpm: number,
  { startBpm }: Pick<SessionTarget, 'startBpm'>,
): { bpm: number; isFar: boolean } => {
  const far =
    outcome === 'close' || toleranceUsage === null || toleranceUsage <= 1 ? 0 : Math.round(bpm * shareToClean(toleranceUsage));
  return { bpm: Math.max(Math.round(startBpm / 2), bpm - Math.max(leastBpm, far)), isFar: far > leastBpm };
};

/** An unsteadiness of at most this share of what is allowed is a wide margin: such a repetition is no lucky one. */
const WIDE_MARGIN = 0.6;

/** Whether a repetition was clean by a wide margin. */
export const isWide = ({ toleranceUsage }: Pick<RepetitionOutcome, 'toleranceUsage'>): boolean =>
  toleranceUsage !== null && toleranceUsage <= WIDE_MARGIN;
