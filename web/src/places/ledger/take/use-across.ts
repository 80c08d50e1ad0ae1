import {
  acrossRepetitions,
  attackHabits,
  awkwardInArcs,
  findingOf,
  type GridRepetitions,
  ofGrid,
  usableRepetitions,
} from '@isochron/core/analysis';
import type { Take } from '@isochron/core/schema';
import { useMemo } from 'react';
import { useTakesBefore } from '../../../api/queries/takes';
import { useDangerSpots } from '../../material/use-danger-spots';

/** What a take's repetitions of one grid say together, with those of the takes before it where these tell more. */
export const useAcross = (take: Take, played: GridRepetitions) => {
  const { grid, repetitions } = played;
  const { before, isKnown } = useTakesBefore(take);
  const across = useMemo(() => acrossRepetitions(played, take.withoutClick), [played, take.withoutClick]);
  const alike = useMemo(() => ofGrid([take, ...before], grid), [take, before, grid]);
  // What is the same every time shows in many repetitions: those of earlier days count as well.
  const pooled = useMemo(
    () => (before.length > 0 ? acrossRepetitions(alike, take.withoutClick) : across),
    [before, alike, take.withoutClick, across],
  );
  const awkward = useMemo(() => awkwardInArcs(alike), [alike]);
  const usable = useMemo(() => usableRepetitions(repetitions), [repetitions]);
  const habits = useMemo(
    () =>
      attackHabits(
        usable.map(({ notes }) => notes),
        grid.events,
      ),
    [usable, grid],
  );
  const finding = findingOf(pooled);
  /** The event that the one weak step leads to, where the finding is one. */
  const spot = finding.code === 'finding-step' ? Number(finding.values.note) : null;
  const dangers = useDangerSpots(spot === null ? null : grid, take.goalBpm);
  return {
    /** Whether the takes before it were looked at: until then a finding may still become another. */
    isKnown,
    across,
    pooled,
    awkward,
    usable,
    habits,
    finding,
    spot,
    expected: dangers.find(({ index }) => index === spot),
    doubledBpm: repetitions.findLast(({ measures }) => measures.doubledBpm != null)?.measures.doubledBpm,
    isStraight: take.drills.every(({ method, also }) => method.id === 'straight' && !also),
  };
};

export type Across = ReturnType<typeof useAcross>;
