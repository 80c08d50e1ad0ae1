import { type TempoUnit, tempoUnitOf, tempoUnits } from '@isochron/core/material';
import { firstDrill } from '@isochron/core/planning';
import type { Passage } from '@isochron/core/schema';
import { useMemo } from 'react';
import { useSettings } from '../../api/settings';

/** The units in which a passage's tempo can be said, and the one that the player counts in. */
export const useTempoUnit = (passage: Passage): { units: readonly TempoUnit[]; unit: TempoUnit } => {
  const { settings } = useSettings();
  const { noteNaming, tempoUnit } = settings;
  const units = useMemo(() => tempoUnits(firstDrill(passage).grid, noteNaming), [passage, noteNaming]);
  return { units, unit: tempoUnitOf(units, tempoUnit) };
};
