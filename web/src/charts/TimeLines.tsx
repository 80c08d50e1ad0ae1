import { Box, chakra } from '@chakra-ui/react';
import { DAY_MS } from '@isochron/core/schema';
import { extent, max, min } from 'd3-array';
import { scaleLinear, scaleUtc } from 'd3-scale';
import { area, line } from 'd3-shape';
import { useDates } from '../app/use-dates';
import { useWidth } from '../app/use-width';
import { ValueAxis } from './ValueAxis';

const Path = chakra('path');
const Label = chakra('text');
const HEIGHT = 250;
const EDGE = { left: 50, right: 130, top: 26, bottom: 34 };
/** More places than this are a line; single marks would run into each other. */
const MARKED = 300;
const LABEL_PX = 17;
const YEAR_MS = 365 * DAY_MS;

/** One line over time. */
export interface TimeLine {
  name: string;
  points: readonly { at: Date; value: number; low?: number; high?: number }[];
  /** Drawn thin and quiet, dashed, as a band between low and high, or as marks alone. */
  look: 'main' | 'quiet' | 'dashed' | 'marks';
}

interface Props {
  lines: readonly TimeLine[];
  /** A level that is wished for, with its name. */
  level?: { value: number; name: string };
  unit: string;
  /** In words what the chart shows. */
  summary: string;
  /** Values the axis takes in besides those of the lines. */
  alsoValues?: readonly number[];
  margin?: number;
  /** The days that are shown; those of the lines where nothing is said. */
  span?: readonly [Date, Date];
}

const PEN = {
  main: { stroke: 'ink', strokeWidth: 1.4 },
  quiet: { stroke: 'quiet', strokeWidth: 1.4 },
  dashed: { stroke: 'ink', strokeWidth: 1.2, strokeDasharray: '6 4' },
  marks: { stroke: 'none', strokeWidth: 0 },
} as const;

/** Labels at the right that would lie over each other are moved apart, downward. */
const apart = (places: readonly { name: string; y: number }[]): { name: string; y: number }[] => {
  let lastY = Number.NEGATIVE_INFINITY;
  return [...places]
    .sort((a, b) => a.y - b.y)
    .map(({ name, y }) => {
      lastY = Math.max(y, lastY + LABEL_PX);
      return { name, y: lastY };
    });
};

/** Lines over time, named where they end; intervals as pale bands. */
export const TimeLines = ({ lines, level, unit, summary, alsoValues = [], margin = 5, span }: Props) => {
  const [frame, width] = useWidth(1000);
  const { short, shortYear } = useDates();
  const points = lines.flatMap((one) => one.points);
  const values = [...points.flatMap(({ value, low = value, high = value }) => [value, low, high]), ...alsoValues];
  const all = level ? [...values, level.value] : values;
  const [first = new Date(0), last = new Date(0)] = span ?? (extent(points, ({ at }) => at) as [Date, Date]);
  const right = width - EDGE.right;
  const x = scaleUtc([first, last], [EDGE.left, right]);
  const y = scaleLinear(
    [Math.max(0, (min(all) ?? 0) - margin), (max(all) ?? 1) + margin],
    [HEIGHT - EDGE.bottom, EDGE.top],
  ).nice();
  const date = last.getTime() - first.getTime() > YEAR_MS ? shortYear : short;
  const path = line<TimeLine['points'][number]>(
    ({ at }) => x(at),
    ({ value }) => y(value),
  );
  const band = area<TimeLine['points'][number]>()
    .x(({ at }) => x(at))
    .y0(({ value, low = value }) => y(low))
    .y1(({ value, high = value }) => y(high));
  const labels = apart([
    ...lines.flatMap(({ name, points: own }) =>
      own.length ? [{ name, y: y((own.at(-1) as { value: number }).value) + 5 }] : [],
    ),
    ...(level ? [{ name: level.name, y: y(level.value) + 5 }] : []),
  ]);
  return (
    <Box ref={frame} as="figure" minWidth={0} overflow="hidden">
      <svg width={width} height={HEIGHT} role="img" aria-label={summary}>
        <ValueAxis y={y} from={EDGE.left} to={right} ticks={5} unit={unit} fontSize="15px" />
        {x.ticks(Math.max(2, Math.floor(width / 180))).map((tick) => (
          <Label key={tick.getTime()} x={x(tick)} y={HEIGHT - 10} textAnchor="middle" fill="quiet" fontSize="15px">
            {date(tick)}
          </Label>
        ))}
        {level && <Path d={`M${EDGE.left},${y(level.value)}H${right}`} stroke="ink" strokeDasharray="2 4" />}
        {lines.map(({ name, points: own, look }) => (
          <g key={name}>
            {look !== 'marks' && own.some(({ low }) => low !== undefined) && (
              <Path d={band(own) ?? ''} fill="band" opacity={0.8} />
            )}
            <Path d={path(own) ?? ''} fill="none" {...PEN[look]} />
            {own.length <= MARKED &&
              own.map(({ at, value, low, high }) => (
                <g key={at.getTime()}>
                  <Path
                    d={`M${x(at)},${y(value) - 6}v12`}
                    stroke={look === 'quiet' ? 'quiet' : look === 'marks' ? 'now' : 'ink'}
                    strokeWidth={2.2}
                  />
                  {look === 'marks' && low !== undefined && high !== undefined && (
                    <Path d={`M${x(at)},${y(low)}V${y(high)}`} stroke="now" strokeWidth={1} />
                  )}
                </g>
              ))}
          </g>
        ))}
        {labels.map((label) => (
          <Label key={label.name} x={right + 8} y={label.y} fill="ink" fontSize="15px">
            {label.name}
          </Label>
        ))}
      </svg>
    </Box>
  );
};
