import { Box, chakra } from '@chakra-ui/react';
import type { Total } from '@isochron/core/planning';
import { max } from 'd3-array';
import { scaleBand, scaleLinear } from 'd3-scale';
import { useDates } from '../app/use-dates';
import { useWidth } from '../app/use-width';
import { minutes } from '../words';
import { ValueAxis } from './ValueAxis';

const Path = chakra('path');
const Label = chakra('text');
const HEIGHT = 200;
const EDGE = { left: 50, right: 90, top: 22, bottom: 30 };
const DATE_PX = 90;

/** Minutes from downbeat to downbeat of each week or day: slow below, fast above it in outline. */
export const WeekBars = ({ totals, title }: { totals: readonly Total[]; title: string }) => {
  const [frame, width] = useWidth(1000);
  const { short } = useDates();
  const x = scaleBand(
    totals.map(({ from }) => from),
    [EDGE.left, width - EDGE.right],
  ).padding(0.25);
  const y = scaleLinear(
    [0, max(totals, ({ slowS, fastS }) => (slowS + fastS) / 60) || 1],
    [HEIGHT - EDGE.bottom, EDGE.top],
  ).nice();
  const last = totals.at(-1);
  const every = Math.max(1, Math.ceil((totals.length * DATE_PX) / Math.max(1, width - EDGE.left - EDGE.right)));
  const slow = totals.reduce((sum, one) => sum + one.slowS, 0);
  const all = totals.reduce((sum, one) => sum + one.slowS + one.fastS, 0);
  return (
    <Box ref={frame} as="figure" minWidth={0} overflow="hidden">
      <svg
        width={width}
        height={HEIGHT}
        role="img"
        aria-label={`${title}: ${minutes(all)} minutes of playing, ${minutes(slow)} of them slow, over ${totals.length} bars.`}
      >
        <ValueAxis y={y} from={EDGE.left} to={width - EDGE.right} ticks={4} unit="min" />
        {totals.map(({ from, slowS, fastS }, k) => {
          const left = x(from) ?? 0;
          const middle = y(slowS / 60);
          return (
            <g key={from}>
              <title>{`${short(from)}: ${minutes(slowS)} min slow, ${minutes(fastS)} min fast`}</title>
              {slowS > 0 && <Path d={`M${left},${y(0)}V${middle}h${x.bandwidth()}V${y(0)}Z`} fill="quiet" />}
              {fastS > 0 && (
                <Path
                  d={`M${left},${middle}V${y((slowS + fastS) / 60)}h${x.bandwidth()}V${middle}Z`}
                  fill="none"
                  stroke="ink"
                  strokeWidth={1.4}
                />
              )}
              {k % every === 0 && (
                <Label x={left + x.bandwidth() / 2} y={HEIGHT - 8} textAnchor="middle" fill="quiet" fontSize="14px">
                  {short(from)}
                </Label>
              )}
            </g>
          );
        })}
        {last && (
          <>
            {last.fastS > 0 && (
              <Label x={width - EDGE.right + 8} y={y((last.slowS + last.fastS / 2) / 60) + 4} fill="ink" fontSize="15px">
                fast
              </Label>
            )}
            {last.slowS > 0 && (
              <Label x={width - EDGE.right + 8} y={y(last.slowS / 2 / 60) + 4} fill="ink" fontSize="15px">
                slow
              </Label>
            )}
          </>
        )}
      </svg>
    </Box>
  );
};
