import { chakra } from '@chakra-ui/react';
import type { Exercise, Repetition, Tolerance } from '@isochron/core';
import { extraXs, type StripScale, type Stroke, strokesOf } from './strip-layout';
import { bpm, figure, OUTCOME_WORDS, strokeWords } from './words';

export const ROW_HEIGHT = 40;
const TOP = 7;
const BOTTOM = 31;
const FOOT = 6;

const Svg = { g: chakra('g'), path: chakra('path'), circle: chakra('circle'), text: chakra('text'), rect: chakra('rect') };

/** Early: a foot to the left at the bottom. Late: a flag to the right at the top. In the window: a plain upright. */
const strokePath = ({ x, side }: Stroke): string => {
  if (side === 'early') return `M${x},${TOP}V${BOTTOM}h${-FOOT}`;
  if (side === 'late') return `M${x},${BOTTOM}V${TOP}h${FOOT}`;
  return `M${x},${TOP}V${BOTTOM}`;
};

const HUE = { early: 'early', late: 'late', on: 'ink' } as const;

interface Props {
  repetition: Repetition;
  exercise: Exercise;
  scale: StripScale;
  tolerance: Tolerance;
  calibrated: boolean;
  y: number;
  /** Index of the stroke that takes part in the tab order, if it is in this row. */
  tabStop: number | null;
  onReach(stroke: Stroke): void;
  onPlay?: (stroke: Stroke) => void;
}

/** One repetition of the strip: its tempo, its strokes, its verdict and spread. */
export const StripRow = ({ repetition, exercise, scale, tolerance, calibrated, y, tabStop, onReach, onPlay }: Props) => {
  const { measures, verdict } = repetition;
  return (
    <g transform={`translate(0 ${y})`} data-repetition={repetition.index}>
      <Svg.text x={72} y={27} textAnchor="end" fill="ink" fontFamily="heading" fontSize="24px">
        {bpm(repetition.tempoBpm)}
      </Svg.text>
      {strokesOf(repetition, exercise, scale, tolerance, calibrated).map((stroke) => (
        <Svg.g
          key={stroke.index}
          role="button"
          tabIndex={tabStop === stroke.index ? 0 : -1}
          aria-label={`${strokeWords(repetition, stroke)}${onPlay ? '. Plays from here' : ''}`}
          data-stroke={`${repetition.index}/${stroke.index}`}
          onMouseEnter={() => onReach(stroke)}
          onFocus={() => onReach(stroke)}
          onClick={() => onPlay?.(stroke)}
          onKeyDown={(event: React.KeyboardEvent) => {
            if (event.key === 'Enter' && onPlay) {
              event.stopPropagation();
              onPlay(stroke);
            }
          }}
          cursor={onPlay ? 'pointer' : 'default'}
        >
          <rect x={stroke.gridX - scale.reachPx} y={0} width={2 * scale.reachPx} height={ROW_HEIGHT} fill="transparent" />
          {stroke.x === null ? (
            <Svg.circle cx={stroke.gridX} cy={(TOP + BOTTOM) / 2} r={4.5} fill="none" stroke="ink" strokeWidth={1.6} />
          ) : (
            <Svg.path
              d={strokePath(stroke)}
              fill="none"
              stroke={HUE[stroke.side]}
              strokeWidth={stroke.side === 'on' ? 2.2 : 3}
            />
          )}
        </Svg.g>
      ))}
      {extraXs(repetition, scale).map((x) => (
        <Svg.path key={x} d={`M${x - 3.5},${BOTTOM}l7,7m0,-7l-7,7`} stroke="ink" strokeWidth={1.6} fill="none" />
      ))}
      <Svg.text x={scale.width - 208} y={19} fill="ink" fontFamily="heading" fontSize="18px">
        {OUTCOME_WORDS[verdict.outcome]}
      </Svg.text>
      <Svg.text x={scale.width - 208} y={36} fill="quiet" fontSize="14px">
        spread {figure(measures.spreadMs?.value, 'ms')} · uneven {figure(measures.unevennessPct?.value, '%')}
      </Svg.text>
    </g>
  );
};
