import { Box, chakra } from '@chakra-ui/react';
import type { BothSides } from '@isochron/core/strategy';
import { max, min } from 'd3-array';
import { scaleLinear, scaleUtc } from 'd3-scale';
import { area, line } from 'd3-shape';
import { useDates } from '../app/use-dates';
import { useWidth } from '../app/use-width';
import { bpm } from '../words';
import { ValueAxis } from './ValueAxis';

const Path = chakra('path');
const Label = chakra('text');
const HEIGHT = 220;
const EDGE = { left: 50, right: 150, top: 22, bottom: 34 };
/** Labels at the right keep this far apart. */
const LABEL_PX = 20;

/** The tempo that was climbed to and that of the bursts, day by day: the gap between them closes. */
export const BothSidesLines = ({ days, title }: { days: readonly BothSides[]; title: string }) => {
  const [frame, width] = useWidth(1000);
  const { short } = useDates();
  const [first, last] = [days[0], days.at(-1)];
  if (!first || !last || days.length < 2) return null;
  const at = ({ day }: BothSides) => new Date(day);
  const x = scaleUtc()
    .domain([at(first), at(last)])
    .range([EDGE.left, width - EDGE.right]);
  const y = scaleLinear()
    .domain([
      (min(days, ({ structuredBpm, burstBpm }) => Math.min(structuredBpm, burstBpm)) ?? 0) - 5,
      (max(days, ({ structuredBpm, burstBpm }) => Math.max(structuredBpm, burstBpm)) ?? 0) + 5,
    ])
    .nice()
    .range([HEIGHT - EDGE.bottom, EDGE.top]);
  const ends = y(last.structuredBpm) - y(last.burstBpm);
  const apart = Math.max(0, LABEL_PX - Math.abs(ends)) / 2;
  const up = ends < 0 ? 1 : -1;
  const lines = [
    { name: 'bursts', of: ({ burstBpm }: BothSides) => burstBpm, moved: up * apart },
    { name: 'climbed to', of: ({ structuredBpm }: BothSides) => structuredBpm, moved: -up * apart },
  ];
  const between = area<BothSides>(
    (day) => x(at(day)),
    ({ structuredBpm }) => y(structuredBpm),
    ({ burstBpm }) => y(burstBpm),
  );
  const told = `${title}, from both sides: on ${short(at(first))} climbed to ${bpm(first.structuredBpm)} and bursts at ${bpm(first.burstBpm)}; on ${short(at(last))} ${bpm(last.structuredBpm)} and ${bpm(last.burstBpm)}.`;
  return (
    <Box ref={frame} as="figure" minWidth={0} overflow="hidden">
      <svg width={width} height={HEIGHT} role="img" aria-label={told}>
        <ValueAxis y={y} from={EDGE.left} to={width - EDGE.right} ticks={4} unit="bpm" />
        {x.ticks(Math.max(2, Math.floor(width / 220))).map((tick) => (
          <Label key={tick.getTime()} x={x(tick)} y={HEIGHT - 10} textAnchor="middle" fill="quiet" fontSize="14px">
            {short(tick)}
          </Label>
        ))}
        <Path d={between(days) ?? ''} fill="band" />
        {lines.map(({ name, of, moved }) => (
          <g key={name}>
            <Path
              d={
                line<BothSides>(
                  (day) => x(at(day)),
                  (day) => y(of(day)),
                )(days) ?? ''
              }
              stroke="ink"
              strokeWidth={name === 'bursts' ? 1.2 : 2.2}
              fill="none"
            />
            <Label x={width - EDGE.right + 8} y={y(of(last)) + 5 + moved} fill="ink" fontSize="15px">
              {name} {bpm(Math.round(of(last)))}
            </Label>
          </g>
        ))}
      </svg>
    </Box>
  );
};
