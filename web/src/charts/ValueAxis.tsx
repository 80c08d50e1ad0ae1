import { chakra } from '@chakra-ui/react';
import type { ScaleLinear } from 'd3-scale';

const Path = chakra('path');
const Label = chakra('text');

interface Props {
  y: ScaleLinear<number, number>;
  /** Where the lines begin and end, in pixels. */
  from: number;
  to: number;
  ticks: number;
  unit: string;
  fontSize?: string;
}

/** Level lines across a chart with their values at the left, the unit above them. */
export const ValueAxis = ({ y, from, to, ticks, unit, fontSize = '14px' }: Props) => (
  <>
    {y.ticks(ticks).map((tick) => (
      <g key={tick}>
        <Path d={`M${from},${y(tick)}H${to}`} stroke="rule" />
        <Label x={from - 8} y={y(tick) + 5} textAnchor="end" fill="quiet" fontSize={fontSize}>
          {tick}
        </Label>
      </g>
    ))}
    <Label x={from - 8} y={13} textAnchor="end" fill="quiet" fontSize="14px">
      {unit}
    </Label>
  </>
);
