import { Box, chakra, Text } from '@chakra-ui/react';
import { barBeats, beatsNumber, type Exercise, lengthBeats, type Repetition, type Tolerance } from '@isochron/core';
import { lazy, Suspense, useMemo, useState } from 'react';
import { ROW_HEIGHT, StripRow } from './StripRow';
import { type Stroke, stripScale } from './strip-layout';
import { useWidth } from './use-width';
import { strokeWords } from './words';

const Notation = lazy(() => import('./Notation'));
const BandRect = chakra('rect');
const RulePath = chakra('path');
const NOTATION_HEIGHT = 140;

interface Props {
  exercise: Exercise;
  repetitions: readonly Repetition[];
  tolerance: Tolerance;
  calibrated: boolean;
  /** Plays the take from a stroke on; left out where there is nothing to hear. */
  onPlay?: (repetition: Repetition, timeS: number) => void;
  /** Shows the notation alone. */
  notationOnly?: boolean;
}

interface Reached {
  row: number;
  stroke: Stroke;
}

/**
 * The strip: one row a repetition, newest at the top; each note an upright stroke beside its gridline, the tolerance a
 * pale band. Arrow keys walk over the strokes.
 */
export const Strip = ({ exercise, repetitions, tolerance, calibrated, onPlay, notationOnly = false }: Props) => {
  const [frame, width] = useWidth(1100);
  const [reached, setReached] = useState<Reached | null>(null);
  const scale = useMemo(() => stripScale(exercise, width), [exercise, width]);
  const rows = [...repetitions].reverse();
  const height = Math.max(1, rows.length) * ROW_HEIGHT;
  const beatsAt = useMemo(() => exercise.events.map((event) => beatsNumber(event.at)).sort((a, b) => a - b), [exercise]);
  const bars = useMemo(() => {
    const perBar = barBeats(exercise).valueOf();
    const last = Math.max(...beatsAt);
    return Array.from({ length: exercise.bars }, (_, bar) => bar * perBar).filter(
      (beat) => beat > Math.min(...beatsAt) && beat <= Math.min(last, lengthBeats(exercise).valueOf()),
    );
  }, [exercise, beatsAt]);

  const walk = (event: React.KeyboardEvent<SVGSVGElement>) => {
    const steps: Record<string, [number, number]> = {
      ArrowLeft: [0, -1],
      ArrowRight: [0, 1],
      ArrowUp: [-1, 0],
      ArrowDown: [1, 0],
    };
    const step = steps[event.key];
    if (!step || !reached) return;
    event.preventDefault();
    event.stopPropagation();
    const row = Math.max(0, Math.min(rows.length - 1, reached.row + step[0]));
    const note = Math.max(0, Math.min(beatsAt.length - 1, reached.stroke.index + step[1]));
    event.currentTarget.querySelector<SVGGElement>(`[data-stroke="${rows[row]?.index}/${note}"]`)?.focus();
  };

  const notation = (
    <Suspense fallback={<Box height={`${NOTATION_HEIGHT}px`} />}>
      <Notation exercise={exercise} scale={scale} bars={bars} height={NOTATION_HEIGHT} />
    </Suspense>
  );
  if (notationOnly) return <Box ref={frame}>{notation}</Box>;

  const reachedRepetition = reached ? rows[reached.row] : undefined;
  return (
    <Box ref={frame} data-testid="strip" width="100%">
      {notation}
      <svg
        width={width}
        height={height}
        role="group"
        aria-label={`Strip of ${repetitions.length} repetitions, newest first. Arrow keys walk over the notes.`}
        onKeyDown={walk}
      >
        {beatsAt.map((beat) => (
          <g key={beat}>
            <BandRect x={scale.beatX(beat) - scale.bandPx} y={0} width={2 * scale.bandPx} height={height} fill="band" />
            <RulePath d={`M${scale.beatX(beat)},0V${height}`} stroke="rule" strokeWidth={1} />
          </g>
        ))}
        {rows.map((repetition, row) => (
          <g key={repetition.index}>
            {row > 0 && <RulePath d={`M0,${row * ROW_HEIGHT}H${width}`} stroke="rule" strokeWidth={1} />}
            <StripRow
              repetition={repetition}
              exercise={exercise}
              scale={scale}
              tolerance={tolerance}
              calibrated={calibrated}
              y={row * ROW_HEIGHT}
              tabStop={reached ? (reached.row === row ? reached.stroke.index : null) : row === 0 ? 0 : null}
              onReach={(stroke) => setReached({ row, stroke })}
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
      <Text fontSize="15px" color="quiet" minHeight="1.5em" textAlign="center">
        {reached && reachedRepetition
          ? strokeWords(reachedRepetition, reached.stroke)
          : rows.length > 0
            ? `Left of a line is early, right of it late${calibrated ? '' : '; shown from each repetition’s own average'}. Band: the tolerance.`
            : ''}
      </Text>
    </Box>
  );
};
