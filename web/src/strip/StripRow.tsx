import { chakra } from '@chakra-ui/react';
import type { Grid, Tolerance } from '@isochron/core/schema';
import { verdictWord } from '@isochron/core/words';
import { memo } from 'react';
import { estimateWords, strokeWords, tempoWords } from '../words';
import { extraXs, NARROW, type StripRepetition, type StripSystem, type Stroke, strokesOf } from './strip-layout';

const TOP = 7;
const BOTTOM = 31;
const FOOT = 6;
/** The height of the strokes' part of a row. */
export const STROKES_HEIGHT = 40;
const WORDS_HEIGHT = 22;

/** The words of a row stand beside it, or above it where the page is narrow. */
const hasWordsAbove = ({ width }: StripSystem): boolean => width < NARROW;

/** The height of a row of a system, in pixels. */
export const rowHeight = (system: StripSystem): number => STROKES_HEIGHT + (hasWordsAbove(system) ? WORDS_HEIGHT : 0);

const Svg = { g: chakra('g'), path: chakra('path'), circle: chakra('circle'), text: chakra('text'), rect: chakra('rect') };

/**
 * Early: a foot to the left at the bottom. Late: a flag to the right at the top. In the window: a plain upright. A note that died
 * early is half as long.
 */
const strokePath = ({ x, side, faults }: Stroke): string => {
  const [top, bottom] = faults.some(({ kind }) => kind === 'died') ? [TOP + 6, BOTTOM - 6] : [TOP, BOTTOM];
  if (side === 'early') return `M${x},${top}V${bottom}h${-FOOT}`;
  if (side === 'late') return `M${x},${bottom}V${top}h${FOOT}`;
  return `M${x},${top}V${bottom}`;
};

/** Beside a stroke: a twin where the note was struck twice, a bar to the right where it was held over the next. */
const besidePath = ({ x, faults }: Stroke): string => {
  const right = (x ?? 0) + 3.5;
  return faults
    .map(({ kind }) => {
      if (kind === 'doubled') return `M${right},${TOP + 5}V${BOTTOM}`;
      return kind === 'overlapping' ? `M${x},${(TOP + BOTTOM) / 2}h9` : '';
    })
    .join('');
};

const HUE = { early: 'early', late: 'late', on: 'ink' } as const;

/** What stands in place of the verdict while a repetition sounds. */
const SOUNDS = 'so far';

interface Props {
  repetition: StripRepetition;
  grid: Grid;
  system: StripSystem;
  tolerance: Tolerance;
  calibrated: boolean;
  /** What the row is called beside its tempo. */
  name: string;
  y: number;
  /** Index of the stroke that takes part in the tab order, if it is in this row. */
  tabStop: number | null;
  onReach(stroke: Stroke): void;
  onPlay?: (stroke: Stroke) => void;
}

/** What is told to others (`onReach`, `onPlay`) says the same as long as the row is the same. */
const isSameRow = (before: Props, after: Props): boolean =>
  before.repetition === after.repetition &&
  before.system === after.system &&
  before.tolerance === after.tolerance &&
  before.calibrated === after.calibrated &&
  before.name === after.name &&
  before.y === after.y &&
  before.tabStop === after.tabStop &&
  (before.onPlay === undefined) === (after.onPlay === undefined);

/** What a row is: its tempo, verdict and figures; beside the strokes, or above them on a narrow page. */
const RowWords = ({ repetition, system, name }: Pick<Props, 'repetition' | 'system' | 'name'>) => {
  const { measures, verdict, tempo } = repetition;
  // What is not judged has figures in the table, with their doubt; beside the strokes they would say too much.
  const figures =
    !verdict || verdict.outcome === 'not-judged'
      ? []
      : [`spread ${estimateWords(measures.spreadMs, 'ms')}`, `uneven ${estimateWords(measures.unevennessPct, '%')}`];
  const isAhead = !verdict && repetition.notes.length <= system.from;
  if (isAhead) return null;
  const word = verdict ? verdictWord({ verdict, measures }) : SOUNDS;
  if (hasWordsAbove(system))
    return (
      <Svg.text x={2} y={15} fill="ink" fontSize="14px">
        {[...(name ? [name] : []), tempoWords(tempo), word, ...figures].join(' · ')}
      </Svg.text>
    );
  return (
    <>
      {name && (
        <Svg.text x={72} y={37} textAnchor="end" fill="quiet" fontSize="14px">
          {name}
        </Svg.text>
      )}
      <Svg.text x={72} y={name ? 21 : 27} textAnchor="end" fill="ink" fontFamily="heading" fontSize="24px">
        {tempoWords(tempo)}
      </Svg.text>
      <Svg.text x={system.width - 208} y={19} fill="ink" fontFamily="heading" fontSize="18px">
        {word}
      </Svg.text>
      <Svg.text x={system.width - 208} y={36} fill="quiet" fontSize="14px">
        {figures.join(' · ')}
      </Svg.text>
    </>
  );
};

/** One repetition in a system of the strip: its strokes, and what the row is. Drawn anew only where something of it changes. */
export const StripRow = memo((props: Props) => {
  const { repetition, grid, system, tolerance, calibrated, name, y, tabStop, onReach, onPlay } = props;
  const strokes = strokesOf(repetition, grid, system, tolerance, calibrated);
  return (
    <g transform={`translate(0 ${y})`} data-repetition={repetition.index}>
      <RowWords repetition={repetition} system={system} name={name} />
      <g transform={`translate(0 ${rowHeight(system) - STROKES_HEIGHT})`}>
        {/* Of what still sounds nothing is missed yet. */}
        {strokes
          .filter(({ x }) => repetition.verdict || x !== null)
          .map((stroke) => (
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
              <rect
                x={stroke.gridX - system.reachPx}
                y={0}
                width={2 * system.reachPx}
                height={STROKES_HEIGHT}
                fill="transparent"
              />
              {stroke.x === null ? (
                <Svg.circle cx={stroke.gridX} cy={(TOP + BOTTOM) / 2} r={4.5} fill="none" stroke="ink" strokeWidth={1.6} />
              ) : (
                <>
                  <Svg.path
                    d={strokePath(stroke)}
                    fill="none"
                    stroke={HUE[stroke.side]}
                    strokeWidth={stroke.side === 'on' ? 2.2 : 3}
                    strokeOpacity={stroke.isUnsure ? 0.45 : 1}
                    strokeDasharray={stroke.faults.some(({ kind }) => kind === 'ghosted') ? '3 3' : undefined}
                  />
                  {stroke.faults.length > 0 && (
                    <Svg.path d={besidePath(stroke)} fill="none" stroke={HUE[stroke.side]} strokeWidth={1.6} />
                  )}
                </>
              )}
            </Svg.g>
          ))}
        {extraXs(repetition, grid, system).map((x) => (
          <Svg.path key={x} d={`M${x - 3.5},${BOTTOM}l7,7m0,-7l-7,7`} stroke="ink" strokeWidth={1.6} fill="none" />
        ))}
      </g>
    </g>
  );
}, isSameRow);
