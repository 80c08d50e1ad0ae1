import { Box, chakra } from '@chakra-ui/react';
import type { PassageRepetitions } from '@isochron/core/schema';
import type { StrategyLine } from '@isochron/core/strategy';
import { extent } from 'd3-array';
import { scaleLinear } from 'd3-scale';
import { curveStepAfter, line } from 'd3-shape';
import { useWidth } from '../app/use-width';
import { bpm } from '../words';
import { ValueAxis } from './ValueAxis';

const Path = chakra('path');
const Label = chakra('text');
const HEIGHT = 280;
const EDGE = { left: 50, right: 150, top: 22, bottom: 34 };
/** Labels at the right keep this far apart. */
const LABEL_PX = 18;

interface Props {
  played: PassageRepetitions;
  lines: readonly StrategyLine[];
  /** The strategies that are drawn strongly; the others stay pale. */
  chosen: ReadonlySet<string>;
  title: string;
}

/** What strategies would have asked for after each repetition, as lines over what was really played. */
export const StrategyLinesChart = ({ played, lines, chosen, title }: Props) => {
  const [frame, width] = useWidth(1000);
  const shown = lines.filter(({ id }) => chosen.has(id));
  const [low = 0, high = 1] = extent([...played.map((one) => one.bpm), ...shown.flatMap(({ askedBpm }) => askedBpm)]) as [
    number,
    number,
  ];
  const x = scaleLinear()
    .domain([0, played.length])
    .range([EDGE.left, width - EDGE.right]);
  const y = scaleLinear()
    .domain([low - 3, high + 3])
    .nice()
    .range([HEIGHT - EDGE.bottom, EDGE.top]);
  const path = line<number>(
    (_, k) => x(k),
    (tempo) => y(tempo),
  ).curve(curveStepAfter);
  const labels = [
    { id: 'played', name: 'played', at: y(played.at(-1)?.bpm ?? low) },
    ...shown.map(({ id, name, askedBpm }) => ({ id, name, at: y(askedBpm.at(-1) ?? low) })),
  ].sort((a, b) => a.at - b.at);
  labels.forEach((label, k) => {
    const before = labels[k - 1];
    if (before) label.at = Math.max(label.at, before.at + LABEL_PX);
  });
  return (
    <Box ref={frame} as="figure" minWidth={0} overflow="hidden">
      <svg
        width={width}
        height={HEIGHT}
        role="img"
        aria-label={`What tempo plans would have asked for of ${title}, after each of ${played.length} repetitions played between ${bpm(Math.min(...played.map((one) => one.bpm)))} and ${bpm(Math.max(...played.map((one) => one.bpm)))}.`}
      >
        <ValueAxis y={y} from={EDGE.left} to={width - EDGE.right} ticks={5} unit="bpm" />
        <Label x={(EDGE.left + width - EDGE.right) / 2} y={HEIGHT - 8} textAnchor="middle" fill="quiet" fontSize="14px">
          the last {played.length} repetitions
        </Label>
        <Path d={path(played.map((one) => one.bpm)) ?? ''} stroke="ink" strokeWidth={2.4} fill="none" />
        {shown.map(({ id, askedBpm }, k) => (
          <Path
            key={id}
            d={path(askedBpm) ?? ''}
            stroke="now"
            strokeWidth={1.4}
            strokeDasharray={['', '6 3', '2 3'][k % 3]}
            fill="none"
            // What was asked for after a repetition stands where the next one does.
            transform={`translate(${x(1) - x(0)},0)`}
          />
        ))}
        {labels.map(({ id, name, at }) => (
          <Label key={id} x={width - EDGE.right + 12} y={at + 5} fill={id === 'played' ? 'ink' : 'now'} fontSize="14px">
            {name}
          </Label>
        ))}
      </svg>
    </Box>
  );
};
