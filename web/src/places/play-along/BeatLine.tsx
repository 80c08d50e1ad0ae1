import { Box, chakra } from '@chakra-ui/react';
import { barBeats } from '@isochron/core/material';
import type { BeatsOf } from '@isochron/core/schema';
import { bisectLeft, max } from 'd3-array';
import { scaleLinear } from 'd3-scale';
import { area } from 'd3-shape';
import { useMemo } from 'react';
import { useWidth } from '../../app/use-width';
import { placeWords } from './play-along-words';
import { PEAKS_PER_S } from './use-peaks';

const Path = chakra('path');
const Line = chakra('line');
const Rect = chakra('rect');
const Label = chakra('text');
const HEIGHT = 170;
const TOP = 26;
/** So close together, bars are numbered only now and then. */
const NUMBER_PX = 34;

interface Props {
  peaks: Float32Array | null;
  beats: BeatsOf | null;
  /** The stretch of the recording that is shown, in seconds. */
  fromS: number;
  toS: number;
  loop: { fromS: number; toS: number } | null;
  /** The beat that corrections are about. */
  selected: number | null;
  placeS: number;
  onPoint(timeS: number): void;
}

/** A stretch of the recording: its sound, an upright at every beat, a longer one where a bar begins, and where it sounds. */
export const BeatLine = ({ peaks, beats, fromS, toS, loop, selected, placeS, onPoint }: Props) => {
  const [frame, width] = useWidth(1000);
  const x = scaleLinear([fromS, toS], [0, width]);
  const middle = TOP + (HEIGHT - TOP) / 2;
  const loudest = useMemo(() => max(peaks ?? []) || 1, [peaks]);
  const shape = useMemo(() => {
    if (!peaks) return '';
    const first = Math.max(0, Math.floor(fromS * PEAKS_PER_S));
    const shown = Array.from(peaks.subarray(first, Math.ceil(toS * PEAKS_PER_S)));
    const scale = scaleLinear([fromS, toS], [0, width]);
    const reach = (value: number) => (value / loudest) * (middle - TOP - 10);
    return (
      area<number>()
        .x((_, k) => scale((first + k) / PEAKS_PER_S))
        .y0((value) => middle - reach(value))
        .y1((value) => middle + reach(value))(shown) ?? ''
    );
  }, [peaks, loudest, fromS, toS, width, middle]);
  const timesS = beats?.timesS ?? [];
  const bars = useMemo(() => (beats ? barBeats(beats) : []), [beats]);
  const isBar = useMemo(() => new Set(bars), [bars]);
  const first = bisectLeft(timesS, fromS);
  const shown = timesS.slice(first, bisectLeft(timesS, toS));
  const barPx =
    bars.length > 1 ? x((timesS[bars[1] as number] as number) - (timesS[bars[0] as number] as number) + fromS) : width;
  const every = Math.max(1, Math.ceil(NUMBER_PX / Math.max(1, barPx)));
  const words = beats && selected !== null && placeWords(selected, beats.beatsPerBar, beats.firstBarBeat);
  return (
    <Box ref={frame} minWidth={0} overflow="hidden" cursor="pointer">
      <svg
        width={width}
        height={HEIGHT}
        role="img"
        aria-label={`The recording from ${fromS.toFixed(1)} to ${toS.toFixed(1)} s, ${shown.length} beats${words ? `; at ${words}` : ''}.`}
        onPointerDown={(event) => onPoint(x.invert(event.clientX - event.currentTarget.getBoundingClientRect().left))}
      >
        {loop && (
          <Rect x={x(loop.fromS)} y={TOP} width={Math.max(0, x(loop.toS) - x(loop.fromS))} height={HEIGHT - TOP} fill="band" />
        )}
        <Path d={shape} fill="rule" />
        {shown.map((timeS, k) => {
          const beat = first + k;
          const begins = isBar.has(beat);
          const bar = beats && begins ? (beat - beats.firstBarBeat) / beats.beatsPerBar + 1 : 0;
          return (
            <g key={beat}>
              <Line
                x1={x(timeS)}
                x2={x(timeS)}
                y1={begins ? TOP : TOP + 30}
                y2={HEIGHT}
                stroke={beat === selected ? 'now' : 'ink'}
                strokeWidth={beat === selected ? 4 : begins ? 2 : 1}
              />
              {begins && (bar - 1) % every === 0 && (
                <Label x={x(timeS) + 3} y={TOP - 8} fill="quiet" fontSize="15px">
                  {bar}
                </Label>
              )}
            </g>
          );
        })}
        <Line x1={x(placeS)} x2={x(placeS)} y1={TOP} y2={HEIGHT} stroke="now" strokeWidth={2} strokeDasharray="5 4" />
      </svg>
    </Box>
  );
};
