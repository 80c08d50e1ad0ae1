import { Box, chakra, Text } from '@chakra-ui/react';
import { positionsOf } from '@isochron/core/material';
import type { Grid, Repetition, Tolerance } from '@isochron/core/schema';
import { lazy, Suspense, useMemo, useRef, useState } from 'react';
import { Guarded } from '../app/Guarded';
import { useWidth } from '../app/use-width';
import { strokeWords } from '../words';
import { BarMark } from './BarMark';
import { rowHeight, STROKES_HEIGHT, StripRow } from './StripRow';
import { type StripRepetition, type StripSystem, type Stroke, stripSystems } from './strip-layout';
import { systemsInView } from './systems-in-view';
import { useTurning } from './use-turning';

const Notation = lazy(() => import('../notation/Notation'));
const BandPath = chakra('path');
const RulePath = chakra('path');

interface Props {
  title: string;
  grid: Grid;
  repetitions: readonly Repetition[];
  tolerance: Tolerance;
  calibrated: boolean;
  /** The repetition that still sounds, as far as it is behind. */
  sounding?: StripRepetition | null;
  /** Plays the take from a stroke on; left out where there is nothing to hear. */
  onPlay?: (repetition: StripRepetition, timeS: number) => void;
  /** Shows the notation alone. */
  notationOnly?: boolean;
  /** Events beside which a sign of caution is drawn, and the numbers of the bars on the page. */
  spots?: ReadonlySet<number>;
  barNumbers?: readonly (number | string)[];
  /** What a row is called beside its tempo; left out where the tempo says enough. */
  rowName?: (repetition: StripRepetition) => string;
  /** The beat that is played now: only the systems about it are shown. All are where this is absent. */
  beat?: number;
  /** Whether its bar is marked. */
  marksBar?: boolean;
  /** What stands under the notation of each system, in place of the marks beside the notes. */
  under?: (system: StripSystem) => React.ReactNode;
}

interface Reached {
  row: number;
  stroke: Stroke;
}

/** What one system of the strip shows. */
interface SystemProps
  extends Omit<
    Props,
    'title' | 'repetitions' | 'sounding' | 'notationOnly' | 'spots' | 'barNumbers' | 'under' | 'beat' | 'marksBar'
  > {
  system: StripSystem;
  rows: readonly StripRepetition[];
  reached: Reached | null;
  onReach(reached: Reached): void;
}

/** The bands of a row whose strokes end at `bottom`, as one shape. */
const bandsPath = ({ beatX, bandPx }: StripSystem, positions: readonly number[], bottom: number): string =>
  positions.map((beat) => `M${beatX(beat) - bandPx},${bottom}v${-STROKES_HEIGHT}h${2 * bandPx}v${STROKES_HEIGHT}z`).join('');

/** Its gridlines, as one line. */
const linesPath = ({ beatX }: StripSystem, positions: readonly number[], bottom: number): string =>
  positions.map((beat) => `M${beatX(beat)},${bottom}v${-STROKES_HEIGHT}`).join('');

/** One system's rows, under its gridlines and their bands. */
const SystemRows = ({ system, grid, rows, tolerance, calibrated, rowName, reached, onReach, onPlay }: SystemProps) => {
  const positions = useMemo(() => positionsOf(grid).slice(system.from, system.to), [grid, system]);
  const each = rowHeight(system);
  const height = rows.length * each;
  const tabStop = (row: number): number | null => {
    if (reached) return reached.row === row ? reached.stroke.index : null;
    return row === 0 && system.from === 0 ? 0 : null;
  };
  return (
    <svg
      width={system.width}
      height={height}
      style={{ display: 'block' }}
      role="group"
      aria-label={`Notes ${system.from + 1} to ${system.to}`}
    >
      {rows.map((repetition, row) => (
        <g key={repetition.index}>
          <BandPath d={bandsPath(system, positions, (row + 1) * each)} fill="band" />
          <RulePath d={linesPath(system, positions, (row + 1) * each)} stroke="rule" strokeWidth={1} />
          {row > 0 && <RulePath d={`M0,${row * each}H${system.width}`} stroke="rule" strokeWidth={1} />}
          <StripRow
            repetition={repetition}
            grid={grid}
            system={system}
            tolerance={tolerance}
            calibrated={calibrated}
            name={rowName?.(repetition) ?? ''}
            y={row * each}
            tabStop={tabStop(row)}
            onReach={(stroke) => onReach({ row, stroke })}
            onPlay={
              onPlay &&
              ((stroke) => {
                const note = repetition.notes[stroke.index];
                onPlay(repetition, note?.onsetS ?? note?.expectedS ?? repetition.downbeatS);
              })
            }
          />
        </g>
      ))}
    </svg>
  );
};

const STEPS: Record<string, readonly [number, number]> = {
  ArrowLeft: [0, -1],
  ArrowRight: [0, 1],
  ArrowUp: [-1, 0],
  ArrowDown: [1, 0],
};

/**
 * The strip: one row a repetition, newest at the top; each note an upright stroke beside its gridline, the tolerance a
 * pale band. What is too long for a line is set in systems, as on a page. Arrow keys walk over the strokes.
 */
export const Strip = (props: Props) => (
  <Guarded what={props.notationOnly ? 'The notation' : 'The strip'} of={props.repetitions}>
    <DrawnStrip {...props} />
  </Guarded>
);

const DrawnStrip = ({
  title,
  repetitions,
  sounding = null,
  notationOnly = false,
  spots,
  barNumbers,
  under,
  beat,
  marksBar = false,
  ...rest
}: Props) => {
  const { grid, calibrated } = rest;
  const [frame, width] = useWidth(1100);
  const box = useRef<HTMLDivElement>(null);
  const [reached, setReached] = useState<Reached | null>(null);
  const systems = useMemo(() => stripSystems(grid, width, !notationOnly), [grid, width, notationOnly]);
  const positions = useMemo(() => positionsOf(grid), [grid]);
  const inView = beat === undefined ? systems : systemsInView(systems, positions, beat);
  const turned = useTurning(inView[0]?.from ?? 0);
  // Of a page that turns there is room for the newest row alone.
  const turns = inView.length < systems.length;
  const rows = useMemo(
    () => [...repetitions, ...(sounding ? [sounding] : [])].reverse().slice(0, turns ? 1 : undefined),
    [repetitions, sounding, turns],
  );

  const walk = (event: React.KeyboardEvent) => {
    const step = STEPS[event.key];
    if (!step || !reached) return;
    event.preventDefault();
    event.stopPropagation();
    const row = Math.max(0, Math.min(rows.length - 1, reached.row + step[0]));
    const note = Math.max(0, Math.min(grid.events.length - 1, reached.stroke.index + step[1]));
    box.current?.querySelector<SVGGElement>(`[data-stroke="${rows[row]?.index}/${note}"]`)?.focus();
  };

  const reachedRepetition = reached ? rows[reached.row] : undefined;
  const drawn = inView.map((system) => (
    <Box key={system.from} position="relative" marginBottom={systems.length > 1 ? '10px' : 0} data-system={system.from}>
      {marksBar && beat !== undefined && <BarMark system={system} grid={grid} beat={beat} />}
      <Guarded what="The notation" of={grid}>
        <Suspense fallback={<Box height="140px" />}>
          <Notation
            title={title}
            grid={grid}
            system={system}
            spots={spots}
            barNumbers={barNumbers}
            withoutMarks={under !== undefined}
          />
        </Suspense>
      </Guarded>
      {under?.(system)}
      {!notationOnly && <SystemRows {...rest} system={system} rows={rows} reached={reached} onReach={setReached} />}
    </Box>
  ));
  return (
    <Box ref={frame} width="100%" minWidth={0} overflow="hidden">
      {notationOnly ? (
        drawn
      ) : (
        <div data-testid="strip">
          <Box
            ref={box}
            role="group"
            aria-label={`Strip of ${repetitions.length} repetitions, newest first. Arrow keys walk over the notes.`}
            onKeyDown={walk}
          >
            <div ref={turned}>{drawn}</div>
          </Box>
          <Text fontSize="15px" color="quiet" minHeight="1.5em" textAlign="center">
            {reached && reachedRepetition
              ? strokeWords(reachedRepetition, reached.stroke)
              : rows.length > 0
                ? `Left of a line is early, right of it late${calibrated ? '' : '; shown from each repetition’s own average'}. Band: the tolerance.`
                : ''}
          </Text>
        </div>
      )}
    </Box>
  );
};
