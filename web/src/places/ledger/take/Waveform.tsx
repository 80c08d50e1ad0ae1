import { Box, Flex, Text } from '@chakra-ui/react';
import { useState } from 'react';
import { Action } from '../../../app/Action';
import { useWave, WAVE_HEIGHT, type WaveOptions } from './use-wave';

interface WaveformProps extends Omit<WaveOptions, 'pixelsPerS'> {
  /** A correction at the cursor; left out while none is possible. */
  onAdd(timeS: number): void;
  onRemove(timeS: number): void;
  onUndo(timeS: number): void;
}

/** Pixels a second: from the whole take to single attacks. */
const ZOOMS = [0, 60, 200, 600, 2000] as const;
const STEP_S = 0.01;
const FINE_STEP_S = 0.001;

const clock = (timeS: number) => `${timeS.toFixed(3)} s`;

/** The take's sound with a line at every onset: zoom, walk, hear from anywhere, and correct onsets by hand. */
export const Waveform = ({ onAdd, onRemove, onUndo, ...options }: WaveformProps) => {
  const [zoom, setZoom] = useState(1);
  const { frame, ready, playing, trouble, fetched, cursorS, hereS, goTo, toggle } = useWave({
    ...options,
    pixelsPerS: ZOOMS[zoom] as number,
  });
  const walk = (seconds: number) => goTo(hereS() + seconds);
  const keys: Record<string, () => void> = {
    ArrowLeft: () => walk(-STEP_S),
    ArrowRight: () => walk(STEP_S),
    ',': () => walk(-FINE_STEP_S),
    '.': () => walk(FINE_STEP_S),
    ' ': toggle,
    '+': () => setZoom((old) => Math.min(ZOOMS.length - 1, old + 1)),
    '-': () => setZoom((old) => Math.max(0, old - 1)),
    a: () => onAdd(hereS()),
    Delete: () => onRemove(hereS()),
    Backspace: () => onRemove(hereS()),
    u: () => onUndo(hereS()),
  };
  const onKey = (event: React.KeyboardEvent) => {
    const action = keys[event.key];
    if (!action || event.ctrlKey || event.metaKey || event.altKey) return;
    event.preventDefault();
    action();
  };

  return (
    <Box>
      <Box
        ref={frame}
        tabIndex={0}
        role="application"
        aria-label="The recording with its notes. Arrow keys walk, comma and full stop walk finely, space plays, plus and minus zoom, A adds a note at the cursor, Delete removes the nearest, U undoes."
        data-testid="waveform"
        data-ready={ready}
        onKeyDown={onKey}
        borderY="1px solid"
        borderColor="rule"
        minHeight={`${WAVE_HEIGHT}px`}
      />
      {trouble && <Text role="alert">{trouble}</Text>}
      <Flex gap="10px" align="center" marginTop="8px" flexWrap="wrap">
        <Action quiet onClick={toggle} disabled={!ready}>
          {playing
            ? 'Stop listening'
            : ready
              ? 'Hear the take'
              : `Fetching the sound${fetched > 0 ? `, ${Math.round(100 * fetched)} %` : ''} …`}
        </Action>
        <Action quiet onClick={() => keys['-']?.()} aria-label="Show more of the take">
          −
        </Action>
        <Action quiet onClick={() => keys['+']?.()} aria-label="Look closer">
          +
        </Action>
        <Text minWidth="8ch" fontFamily="heading" fontSize="19px" data-testid="cursor">
          {clock(cursorS)}
        </Text>
        <Action quiet onClick={() => onAdd(hereS())} disabled={!ready}>
          Add a note here
        </Action>
        <Action quiet onClick={() => onRemove(hereS())} disabled={!ready}>
          Remove the nearest
        </Action>
        <Action quiet onClick={() => onUndo(hereS())} disabled={!ready}>
          Undo
        </Action>
      </Flex>
    </Box>
  );
};
