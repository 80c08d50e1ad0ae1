import { alongside } from '@isochron/core/material';
import type { Drill, PracticeConfig } from '@isochron/core/schema';
import { useMemo } from 'react';
import { useAccompaniment } from '../../api/accompaniments';

const GONE =
  'The recording that this was played along with cannot be fetched. Choose “nothing” under “Along with”, or another one.';
const TOO_LATE = 'The recording has fewer than two beats after that bar. Choose an earlier one under “Along with”.';

/**
 * The drills of a configuration along with its recording, where it has one: null while that is fetched or cannot be had, and why. A run of blocks
 * does not wait for hands: it goes on without what cannot be had.
 */
export const usePlayAlong = (
  drills: readonly Drill[],
  { playAlong, click }: PracticeConfig,
  isRun: boolean,
): { drills: readonly Drill[] | null; trouble: string } => {
  const { accompaniment, message } = useAccompaniment(playAlong?.accompanimentId);
  const fromBeat = playAlong?.fromBeat ?? null;
  const hasClick = click !== null;
  return useMemo(() => {
    if (fromBeat === null) return { drills, trouble: '' };
    if (!accompaniment) return { drills: message && isRun ? drills : null, trouble: message && GONE };
    const made = drills.flatMap((drill) => alongside(drill, accompaniment, fromBeat, hasClick) ?? []);
    return made.length === drills.length ? { drills: made, trouble: '' } : { drills: isRun ? drills : null, trouble: TOO_LATE };
  }, [drills, accompaniment, message, fromBeat, hasClick, isRun]);
};
