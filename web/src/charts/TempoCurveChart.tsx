import { Box, chakra } from '@chakra-ui/react';
import { extent } from 'd3-array';
import { scaleLinear } from 'd3-scale';
import { line } from 'd3-shape';
import { useWidth } from '../app/use-width';
import { bpm } from '../words';
import type { DrawnCurve } from '../workers/tempos';

const Path = chakra('path');
const Label = chakra('text');
const Dot = chakra('circle');
const Band = chakra('rect');
const HEIGHT = 270;
const EDGE = { left: 58, right: 20, top: 34, bottom: 42 };
/** Unsteadiness beyond this are drawn at the top. */
const MAX_SHARE = 2;

/** How much of what is allowed each repetition took, by its tempo: full dots were clean, open ones not; and where it is easy, at the edge, and came apart. */
export const TempoCurveChart = ({ curve, goalBpm, title }: { curve: DrawnCurve; goalBpm: number; title: string }) => {
  const [frame, width] = useWidth(1000);
  const { points, unsteadiness, easy, edge, broke } = curve;
  if (points.length === 0) return null;
  const [low = 0, high = 1] = extent(points, ({ bpm: at }) => at) as [number, number];
  const x = scaleLinear()
    .domain([low - 4, Math.max(high, goalBpm) + 4])
    .range([EDGE.left, width - EDGE.right]);
  const y = scaleLinear()
    .domain([0, MAX_SHARE])
    .range([HEIGHT - EDGE.bottom, EDGE.top]);
  const at = (share: number) => y(Math.min(MAX_SHARE, share));
  const path = line<(typeof unsteadiness)[number]>(
    (point) => x(point.bpm),
    (point) => at(point.share),
  );
  const named = [
    { name: 'easy', range: easy, row: 0 },
    { name: 'edge', range: edge, row: 1 },
    { name: 'break', range: broke, row: 2 },
  ].flatMap(({ range, ...rest }) => (range ? [{ ...rest, range }] : []));
  const told = named.map(({ name, range }) => `${name} ${bpm(Math.round(range.bpm))}`).join(', ');
  return (
    <Box ref={frame} as="figure" minWidth={0} overflow="hidden">
      <svg
        width={width}
        height={HEIGHT}
        role="img"
        aria-label={`Tempo curve of ${title}: ${points.length} repetitions from ${bpm(low)} to ${bpm(high)}${told ? `; ${told}` : ''}.`}
      >
        {[0, 0.5, 1, 1.5, 2].map((share) => (
          <g key={share}>
            <Path
              d={`M${EDGE.left},${y(share)}H${width - EDGE.right}`}
              stroke={share === 1 ? 'ink' : 'rule'}
              strokeDasharray={share === 1 ? '2 4' : undefined}
            />
            <Label x={EDGE.left - 8} y={y(share) + 5} textAnchor="end" fill="quiet" fontSize="14px">
              {Math.round(100 * share)} %
            </Label>
          </g>
        ))}
        <Label x={EDGE.left} y={15} fill="quiet" fontSize="14px">
          unsteadiness, of what is allowed
        </Label>
        {x.ticks(Math.max(3, Math.floor(width / 120))).map((tick) => (
          <Label key={tick} x={x(tick)} y={HEIGHT - 22} textAnchor="middle" fill="quiet" fontSize="14px">
            {tick}
          </Label>
        ))}
        <Label x={width - EDGE.right} y={HEIGHT - 4} textAnchor="end" fill="quiet" fontSize="14px">
          tempo, bpm
        </Label>
        {named.map(({ name, range, row }) => (
          <g key={name}>
            <Band
              x={x(range.low)}
              y={EDGE.top}
              width={Math.max(1, x(range.high) - x(range.low))}
              height={HEIGHT - EDGE.top - EDGE.bottom}
              fill="band"
            />
            <Path d={`M${x(range.bpm)},${EDGE.top}V${HEIGHT - EDGE.bottom}`} stroke="ink" strokeWidth={1.4} />
            <Label
              x={x(range.bpm)}
              y={row === 2 ? HEIGHT - EDGE.bottom - 8 : EDGE.top - 5}
              textAnchor={row === 0 ? 'end' : 'start'}
              fill="ink"
              fontSize="15px"
            >
              {name} {bpm(Math.round(range.bpm))}
            </Label>
          </g>
        ))}
        <Path d={`M${x(goalBpm)},${EDGE.top + 14}V${HEIGHT - EDGE.bottom}`} stroke="ink" strokeDasharray="2 4" />
        <Label x={x(goalBpm) - 6} y={EDGE.top + 26} textAnchor="end" fill="ink" fontSize="14px">
          goal
        </Label>
        {points.map((point, k) => (
          <Dot
            // biome-ignore lint/suspicious/noArrayIndexKey: repetitions have no other name here, and none is moved.
            key={k}
            cx={x(point.bpm)}
            cy={at(point.share)}
            r={3.4}
            fill={point.isClean ? 'ink' : 'none'}
            stroke="ink"
            opacity={0.25 + 0.75 * point.weight}
          />
        ))}
        <Path d={path(unsteadiness) ?? ''} stroke="now" strokeWidth={2} fill="none" />
      </svg>
    </Box>
  );
};
