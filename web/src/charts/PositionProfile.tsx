import { Box, chakra } from '@chakra-ui/react';
import type { Position } from '@isochron/core/analysis';
import { positionsOf } from '@isochron/core/material';
import type { Grid } from '@isochron/core/schema';
import { max } from 'd3-array';
import { scaleLinear } from 'd3-scale';
import { useWidth } from '../app/use-width';
import { signed } from '../words';

const Path = chakra('path');
const Label = chakra('text');
const HEIGHT = 190;
const EDGE = { left: 62, right: 30, top: 16, bottom: 34 };
/** Note numbers closer together than this would run into each other. */
const NUMBER_PX = 18;

/** The per-position profile: at each note its mean deviation with the range it is known to, and how far it scatters. */
export const PositionProfile = ({ grid, profile }: { grid: Grid; profile: readonly Position[] }) => {
  const [frame, width] = useWidth(1000);
  const beats = positionsOf(grid);
  const heard = profile.filter((position) => position.count > 0);
  const reach = Math.max(
    10,
    max(heard, ({ meanMs, sdMs }) =>
      Math.max(
        Math.abs(meanMs.low ?? meanMs.value),
        Math.abs(meanMs.high ?? meanMs.value),
        Math.abs(meanMs.value) + (sdMs ?? 0),
      ),
    ) ?? 10,
  );
  const x = scaleLinear()
    .domain([Math.min(...beats), Math.max(...beats)])
    .range([EDGE.left + 20, width - EDGE.right]);
  const y = scaleLinear()
    .domain([-reach, reach])
    .nice()
    .range([EDGE.top, HEIGHT - EDGE.bottom]);
  const shows: boolean[] = [];
  const words = heard
    .map(({ index, meanMs, sdMs }) => `note ${index + 1} ${signed(meanMs.value)} ms, scatter ${(sdMs ?? 0).toFixed(1)} ms`)
    .join('; ');
  return (
    <Box ref={frame} as="figure" minWidth={0} overflow="hidden">
      <svg width={width} height={HEIGHT} role="img" aria-label={`Mean deviation of each note: ${words}.`}>
        {y.ticks(5).map((tick) => (
          <g key={tick}>
            <Path d={`M${EDGE.left},${y(tick)}H${width - EDGE.right}`} stroke={tick === 0 ? 'quiet' : 'rule'} />
            <Label x={EDGE.left - 8} y={y(tick) + 5} textAnchor="end" fill="quiet" fontSize="14px">
              {signed(tick, 0)}
            </Label>
          </g>
        ))}
        <Label x={EDGE.left + 4} y={(y.range()[0] ?? 0) - 3} fill="quiet" fontSize="14px">
          early
        </Label>
        <Label x={EDGE.left + 4} y={HEIGHT - EDGE.bottom - 4} fill="quiet" fontSize="14px">
          late
        </Label>
        <Label x={4} y={y(0) + 5} fill="quiet" fontSize="14px">
          ms
        </Label>
        {heard.map(({ index, meanMs, sdMs }, k) => {
          const at = x(beats[index] ?? 0);
          const before = heard.slice(0, k).findLast((_, n) => shows[n]);
          const isFree = !before || at - x(beats[before.index] ?? 0) >= NUMBER_PX;
          shows[k] = isFree;
          const scatter = sdMs ?? 0;
          return (
            <g key={index}>
              <Path d={`M${at},${y(meanMs.value - scatter)}V${y(meanMs.value + scatter)}`} stroke="rule" strokeWidth={9} />
              {meanMs.low !== null && meanMs.high !== null && (
                <Path d={`M${at},${y(meanMs.low)}V${y(meanMs.high)}`} stroke="ink" strokeWidth={2} />
              )}
              <Path d={`M${at - 6},${y(meanMs.value)}h12`} stroke="ink" strokeWidth={2.4} />
              {isFree && (
                <Label x={at} y={HEIGHT - 12} textAnchor="middle" fill="quiet" fontSize="14px">
                  {index + 1}
                </Label>
              )}
            </g>
          );
        })}
      </svg>
    </Box>
  );
};
