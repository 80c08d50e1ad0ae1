import { Box, chakra } from '@chakra-ui/react';
import type { TempoHistory as Days } from '@isochron/core';
import { extent, max, min } from 'd3-array';
import { scaleLinear, scaleUtc } from 'd3-scale';
import { line } from 'd3-shape';
import { useDates } from '../app/use-dates';
import { useWidth } from '../app/use-width';
import { bpm } from '../words';
import { ValueAxis } from './ValueAxis';

const Path = chakra('path');
const Label = chakra('text');
const HEIGHT = 250;
/** More days than this are a line; single marks would run into each other. */
const MARKED = 300;
const EDGE = { left: 50, right: 110, top: 18, bottom: 34 };

interface Point {
  at: Date;
  bestBpm: number;
  startBpm: number;
}

const YEAR_MS = 365 * 86_400_000;

/** The tempo history of one passage: the best clean tempo of each day over time, with the goal. */
export const TempoHistory = ({ history, goalBpm, title }: { history: Days; goalBpm: number; title: string }) => {
  const [frame, width] = useWidth(1000);
  const { short, shortYear } = useDates();
  const points: Point[] = history.map(({ day, bestCleanBpm, startBpm }) => ({
    at: new Date(day),
    bestBpm: bestCleanBpm,
    startBpm,
  }));
  const last = points.at(-1);
  if (!last || points.length < 2) return <p>The tempo history begins with the second day that has a clean repetition.</p>;
  const x = scaleUtc()
    .domain(extent(points, (point) => point.at) as [Date, Date])
    .range([EDGE.left, width - EDGE.right]);
  const y = scaleLinear()
    .domain([
      (min(points, (point) => point.startBpm) ?? 40) - 5,
      Math.max(goalBpm, max(points, (point) => point.bestBpm) ?? 0) + 5,
    ])
    .nice()
    .range([HEIGHT - EDGE.bottom, EDGE.top]);
  const path = line<Point>(
    (point) => x(point.at),
    (point) => y(point.bestBpm),
  );
  const first = points[0] as Point;
  const date = last.at.getTime() - first.at.getTime() > YEAR_MS ? shortYear : short;
  const summary = `${title}: best clean tempo ${bpm(first.bestBpm)} on ${date(first.at)}, ${bpm(last.bestBpm)} on ${date(last.at)}, goal ${bpm(goalBpm)}, ${points.length} days.`;
  return (
    <Box ref={frame} as="figure" minWidth={0} overflow="hidden">
      <svg width={width} height={HEIGHT} role="img" aria-label={summary}>
        <ValueAxis y={y} from={EDGE.left} to={width - EDGE.right} ticks={5} unit="bpm" fontSize="15px" />
        {x.ticks(Math.max(2, Math.floor(width / 180))).map((tick) => (
          <Label key={tick.getTime()} x={x(tick)} y={HEIGHT - 10} textAnchor="middle" fill="quiet" fontSize="15px">
            {date(tick)}
          </Label>
        ))}
        <Path d={`M${EDGE.left},${y(goalBpm)}H${width - EDGE.right}`} stroke="ink" strokeDasharray="2 4" />
        <Label
          x={width - EDGE.right + 8}
          y={y(goalBpm) - (Math.abs(y(goalBpm) - y(last.bestBpm)) < 16 ? 10 : -5)}
          fill="ink"
          fontSize="15px"
        >
          goal {bpm(goalBpm)}
        </Label>
        <Path d={path(points) ?? ''} stroke="ink" strokeWidth={1.2} fill="none" />
        {points.length <= MARKED &&
          points.map((point) => (
            <Path key={point.at.getTime()} d={`M${x(point.at)},${y(point.bestBpm) - 6}v12`} stroke="ink" strokeWidth={2.2} />
          ))}
        <Label x={width - EDGE.right + 8} y={y(last.bestBpm) + 8} fill="ink" fontSize="15px">
          best clean {bpm(last.bestBpm)}
        </Label>
      </svg>
    </Box>
  );
};
