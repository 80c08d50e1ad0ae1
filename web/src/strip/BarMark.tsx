import { Box } from '@chakra-ui/react';
import { barStarts, type Grid } from '@isochron/core/schema';
import { useMemo } from 'react';
import type { StripSystem } from './strip-layout';
import { barInSystem } from './systems-in-view';

/** A quiet line over the bar that is played. */
export const BarMark = ({ system, grid, beat }: { system: StripSystem; grid: Grid; beat: number }) => {
  const lines = useMemo(() => barStarts(grid).map((line) => line.valueOf()), [grid]);
  const bar = barInSystem(system, lines, beat);
  return (
    bar && (
      <Box
        position="absolute"
        top="6px"
        left={`${bar.x}px`}
        width={`${bar.width}px`}
        height="3px"
        background="now"
        data-testid="bar-mark"
      />
    )
  );
};
