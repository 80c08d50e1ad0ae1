import { Box, chakra } from '@chakra-ui/react';
import { bin, max } from 'd3-array';
import { scaleLinear } from 'd3-scale';
import { useWidth } from '../app/use-width';
import { signed } from '../words';

const Rect = chakra('rect');
const Path = chakra('path');
const Label = chakra('text');
const HEIGHT = 180;
const EDGE = { left: 50, right: 20, top: 14, bottom: 34 };

/** How many notes lay how far from their own repetition's placement; `windowMs` is the tolerance around it. */
export const DeviationHistogram = ({ deviationsMs, windowMs }: { deviationsMs: readonly number[]; windowMs: number }) => {
  const [frame, width] = useWidth(1000);
  const reach = Math.max(1.5 * windowMs, 1.05 * (max(deviationsMs, Math.abs) ?? 0));
  const x = scaleLinear()
    .domain([-reach, reach])
    .nice()
    .range([EDGE.left, width - EDGE.right]);
  const [low = -reach, high = reach] = x.domain();
  const bins = bin().domain([low, high]).thresholds(x.ticks(40))([...deviationsMs]);
  const y = scaleLinear()
    .domain([0, max(bins, (one) => one.length) ?? 1])
    .nice()
    .range([HEIGHT - EDGE.bottom, EDGE.top]);
  const inside = deviationsMs.filter((value) => Math.abs(value) <= windowMs).length;
  return (
    <Box ref={frame} as="figure" minWidth={0} overflow="hidden">
      <svg
        width={width}
        height={HEIGHT}
        role="img"
        aria-label={`Deviations of ${deviationsMs.length} notes: ${inside} lie within ${windowMs.toFixed(0)} ms of their repetition’s placement, from ${signed(Math.min(...deviationsMs))} to ${signed(Math.max(...deviationsMs))} ms.`}
      >
        <Rect
          x={x(-windowMs)}
          y={EDGE.top}
          width={x(windowMs) - x(-windowMs)}
          height={HEIGHT - EDGE.bottom - EDGE.top}
          fill="band"
        />
        {bins.map((one) => (
          <Rect
            key={one.x0}
            x={x(one.x0 ?? 0) + 0.5}
            y={y(one.length)}
            width={Math.max(0, x(one.x1 ?? 0) - x(one.x0 ?? 0) - 1)}
            height={y(0) - y(one.length)}
            fill="quiet"
          />
        ))}
        <Path d={`M${EDGE.left},${y(0)}H${width - EDGE.right}`} stroke="rule" />
        {y.ticks(3).map((tick) => (
          <Label key={tick} x={EDGE.left - 8} y={y(tick) + 5} textAnchor="end" fill="quiet" fontSize="14px">
            {tick}
          </Label>
        ))}
        {x.ticks(Math.max(3, Math.floor(width / 110))).map((tick) => (
          <Label key={tick} x={x(tick)} y={HEIGHT - 12} textAnchor="middle" fill="quiet" fontSize="14px">
            {signed(tick, 0)}
            {tick === 0 ? ' ms' : ''}
          </Label>
        ))}
      </svg>
    </Box>
  );
};
