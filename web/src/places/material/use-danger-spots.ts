import { type DangerSpot, dangerSpots, instrumentOf } from '@isochron/core/material';
import type { Grid } from '@isochron/core/schema';
import { useMemo } from 'react';
import { useSettings } from '../../api/settings';

/** Where a grid may go wrong at a tempo on its instrument, or on the player's own; nowhere while there is no grid. */
export const useDangerSpots = (grid: Grid | null, bpm: number, instrumentId?: string): readonly DangerSpot[] => {
  const { settings } = useSettings();
  const instrument = instrumentOf(instrumentId ?? settings.playsId, settings.instruments);
  return useMemo(() => (grid ? dangerSpots(grid, bpm, instrument) : []), [grid, bpm, instrument]);
};
